"""Time of moves and cuts in closed form."""

from math import pi, sqrt

MM_PER_M = 1000.0
NEARLY = 1e-9


def move_s(length_mm: float, speed_mm_min: float, accel_m_s2: float | None = None) -> float:
    """Return how long a move from rest to rest takes, [s].

    Args:
        length_mm: of the move, 0 or more. [mm]
        speed_mm_min: top speed, above 0. [mm/min]
        accel_m_s2: how fast the slide gathers speed, and loses it; None for at once. [m/s²]

    Returns:
        l / v + v / a; 2 √(l / a) for a move too short to reach the speed.

    Source:
        Own derivation: constant acceleration, no jerk.
    """
    speed = speed_mm_min / 60
    if accel_m_s2 is None:
        return length_mm / speed
    accel = accel_m_s2 * MM_PER_M
    if length_mm < speed * speed / accel:
        return 2 * sqrt(length_mm / accel)
    return length_mm / speed + speed / accel


def faced_s(
    from_mm: float, to_mm: float, feed_mm: float, speed_m_min: float, most_rpm: float | None
) -> float:
    """Return how long facing takes at constant surface speed, [s].

    Args:
        from_mm: radius where it begins. [mm]
        to_mm: radius where it ends; 0 for the centre. [mm]
        feed_mm: a turn. [mm]
        speed_m_min: cutting speed. [m/min]
        most_rpm: at which the spindle is capped; None for no cap, then it never ends at the centre but its time is finite. [rev/min]

    Returns:
        Outside the radius where the cap is met π (R² − r²) / (1000 v f) minutes, inside it r / (f n).

    Source:
        Own derivation: dt = dr / (f n), n = 1000 v / (2 π r).

    Example:
        >>> round(faced_s(30, 0, 0.1, 150, None), 2)
        11.31
    """
    meets = 0.0 if most_rpm is None else MM_PER_M * speed_m_min / (2 * pi * most_rpm)
    outer = max(from_mm, to_mm)
    edge = min(max(meets, to_mm), outer)
    minutes = pi * (outer * outer - edge * edge) / (MM_PER_M * speed_m_min * feed_mm)
    if most_rpm is not None:
        minutes += (edge - to_mm) / (feed_mm * most_rpm)
    return minutes * 60


def infeeds_mm(deep_mm: float, first_mm: float, least_mm: float) -> tuple[float, ...]:
    """Return the depth of a thread after each pass, so that every pass takes the same area of chip, [mm].

    Args:
        deep_mm: of the thread. [mm]
        first_mm: the deepest first pass. [mm]
        least_mm: a pass takes at least so much; the last ones are made fewer where they would rub. [mm]

    Returns:
        d √(i / n): a V has an area that grows with the square of its depth.

    Source:
        Own derivation.
    """
    passes = max(1, _whole((deep_mm / first_mm) ** 2))
    while passes > 1 and deep_mm * (1 - sqrt((passes - 1) / passes)) < least_mm:
        passes -= 1
    return tuple(deep_mm * sqrt(at / passes) for at in range(1, passes + 1))


def _whole(value: float) -> int:
    whole = int(value)
    return whole if value - whole < NEARLY else whole + 1
