"""Student's t for 80 % ranges, carried as twelve numbers: importing it takes longer than a page may.

Held against scipy by tests/published/test_students_t.py.
"""

T_90 = {  # one-sided 90 %, by degrees of freedom
    1: 3.0777,
    2: 1.8856,
    3: 1.6377,
    4: 1.5332,
    5: 1.4759,
    6: 1.4398,
    7: 1.4149,
    8: 1.3968,
    9: 1.3830,
    10: 1.3722,
    11: 1.3634,
}
NORMAL_90 = 1.2815515655446004


def t_80(freedom: int) -> float:
    """Return the half width of an 80 % range in standard errors, for so many degrees of freedom, [-].

    Source:
        Beyond the table the first three terms of the expansion in 1/n about the normal quantile (Cornish and Fisher), from
        memory; to four places.
    """
    if freedom in T_90:
        return T_90[freedom]
    z = NORMAL_90
    third = (3 * z**7 + 19 * z**5 + 17 * z**3 - 15 * z) / (384 * freedom**3)
    return z + (z**3 + z) / (4 * freedom) + (5 * z**5 + 16 * z**3 + 3 * z) / (96 * freedom**2) + third
