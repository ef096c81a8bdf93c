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
NORMAL_90 = 1.2816


def t_80(freedom: int) -> float:
    """Return the half width of an 80 % range in standard errors; beyond 11 degrees that of the normal distribution."""
    return T_90.get(freedom, NORMAL_90)
