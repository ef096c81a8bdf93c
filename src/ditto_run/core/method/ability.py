"""Can the machine do it: force, torque and power of a cut against what the machine has."""

from dataclasses import dataclass
from math import acos, pi, radians, sin
from typing import Literal

from ditto_run.core.errors import BadEntry

Cutting = Literal["turn", "mill", "drill", "tap"]
EFFICIENCY = 0.8  # motor to spindle; common practice, no source
POINT_DEG = 118
PILOT_SHARE = (
    0.3  # a pilot of this share of the drill takes away the chisel edge and its thrust; common practice
)
TAP_DIVISOR = 8000  # M = P² D kc / 8000; common practice, no source
RPM_CONSTANT = 9549.3  # torque [N·m] = 9549.3 power [kW] / speed [rev/min]; 60000/2π


@dataclass(frozen=True, slots=True)
class Cut:
    """One cut.

    Args:
        cutting: turn, mill, drill or tap.
        diameter_mm: work piece turned, cutter, drill or thread. [mm]
        speed_m_min: cutting speed. [m/min]
        feed_mm: a revolution; a tooth when milling; the pitch when tapping. [mm]
        depth_mm: depth of cut, axial when milling. [mm]
        width_mm: radial engagement when milling. [mm]
        teeth: of a milling cutter.
    """

    cutting: Cutting
    diameter_mm: float
    speed_m_min: float
    feed_mm: float
    depth_mm: float = 0.0
    width_mm: float = 0.0
    teeth: int = 1


@dataclass(frozen=True, slots=True)
class Demand:
    """What a cut asks of the machine.

    Args:
        speed_rpm: spindle speed. [rev/min]
        force_n: cutting force; 0 for a tap. [N]
        torque_nm: at the spindle. [N·m]
        power_kw: at the motor. [kW]
        removal_cm3_min: metal removed. [cm³/min]
        feed_mm_min: feed rate. [mm/min]
    """

    speed_rpm: float
    force_n: float
    torque_nm: float
    power_kw: float
    removal_cm3_min: float
    feed_mm_min: float


def cutting_force_n(kc11: float, mc: float, width_mm: float, thickness_mm: float) -> float:
    """Return the cutting force, Fc = kc1.1 b h^(1 − mc), [N].

    Args:
        kc11: specific force of a 1 × 1 mm chip. [N/mm²]
        mc: exponent of the chip thickness. [-]
        width_mm: width of the chip, b. [mm]
        thickness_mm: thickness of the chip, h. [mm]

    Source:
        [kienzle].

    Example:
        >>> round(cutting_force_n(2220, 0.14, 3, 0.3), 1)
        2364.8
    """
    return float(kc11 * width_mm * thickness_mm ** (1 - mc))


def spindle_rpm(speed_m_min: float, diameter_mm: float) -> float:
    """Return n = 1000 v / (π D), [rev/min].

    Example:
        >>> round(spindle_rpm(100, 20), 2)
        1591.55
    """
    return 1000 * speed_m_min / (pi * diameter_mm)


def demand(cut: Cut, kc11: float, mc: float, speed_rpm: float | None = None) -> Demand:
    """Return what a cut asks of the machine.

    Args:
        cut: the cut.
        kc11: specific force. [N/mm²]
        mc: exponent. [-]
        speed_rpm: spindle speed where the machine's own is taken instead of the cutting speed. [rev/min]

    Raises:
        BadEntry: if a cutter would engage more than its diameter.

    Source:
        [kienzle]; milling by the mean chip thickness 2 f ae / (D φ); drilling with two lips at half the
        feed; tapping M = P² D kc / 8000, common practice, no source. Own derivation of the rest.
    """
    rpm = speed_rpm if speed_rpm is not None else spindle_rpm(cut.speed_m_min, cut.diameter_mm)
    if cut.cutting == "mill":
        return _milled(cut, kc11, mc, rpm)
    if cut.cutting == "tap":
        torque = cut.feed_mm**2 * cut.diameter_mm * kc11 / TAP_DIVISOR
        return Demand(rpm, 0.0, torque, torque * rpm / RPM_CONSTANT / EFFICIENCY, 0.0, cut.feed_mm * rpm)
    if cut.cutting == "drill":
        slope = sin(radians(POINT_DEG / 2))
        lip = cutting_force_n(kc11, mc, cut.diameter_mm / 2 / slope, cut.feed_mm / 2 * slope)
        torque = lip * cut.diameter_mm / 2 / 1000
        area = pi / 4 * cut.diameter_mm**2
        return Demand(
            rpm,
            2 * lip,
            torque,
            torque * rpm / RPM_CONSTANT / EFFICIENCY,
            area * cut.feed_mm * rpm / 1000,
            cut.feed_mm * rpm,
        )
    force = cutting_force_n(kc11, mc, cut.depth_mm, cut.feed_mm)
    torque = force * cut.diameter_mm / 2 / 1000
    removed = cut.depth_mm * cut.feed_mm * pi * cut.diameter_mm * rpm / 1000
    return Demand(rpm, force, torque, torque * rpm / RPM_CONSTANT / EFFICIENCY, removed, cut.feed_mm * rpm)


def _milled(cut: Cut, kc11: float, mc: float, rpm: float) -> Demand:
    if cut.width_mm > cut.diameter_mm:
        raise BadEntry(
            "The cutter cannot engage more than its diameter.",
            "Type a smaller width, or a larger cutter.",
            "width",
        )
    arc = acos(1 - 2 * cut.width_mm / cut.diameter_mm)
    thickness = 2 * cut.feed_mm * cut.width_mm / (cut.diameter_mm * arc)
    feed = cut.feed_mm * cut.teeth * rpm
    removed = cut.depth_mm * cut.width_mm * feed / 1000
    specific = kc11 * thickness ** (-mc)
    power = removed * 1000 * specific / 6e7
    return Demand(
        rpm,
        cutting_force_n(kc11, mc, cut.depth_mm, thickness),
        power * RPM_CONSTANT / rpm,
        power / EFFICIENCY,
        removed,
        feed,
    )
