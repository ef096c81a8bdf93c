"""Will it hold, will it spoil: friction, clamps, threads, rings, vacuum, balance, deflection."""

from dataclasses import dataclass
from math import cos, pi, sin, sqrt

from ditto_run.core.entry.quantity import quantity_text
from ditto_run.core.errors import BadEntry
from ditto_run.core.threads import Thread, thread_limits
from ditto_run.core.units import LengthUnit

STANDARD_KPA = 101.325
FACTOR_WANTED = 2.0  # holding over cutting force; common practice, no source
LOBES = 3  # jaws of a chuck


def vise_force_n(torque_nm: float, screw_mm: float, factor: float = 0.2) -> float:
    """Return the force of a vise or clamp screw, F = T / (K d), [N].

    Args:
        torque_nm: at the screw. [N·m]
        screw_mm: diameter of the screw, above 0. [mm]
        factor: K, 0.2 dry, 0.15 oiled.

    Source:
        Short-form torque equation T = K d F, [torque].
    """
    return torque_nm * 1000 / (factor * screw_mm)


def safety_factor(clamp_n: float, friction: float, surfaces: int, cutting_n: float) -> float:
    """Return how many times the grip exceeds the cutting force, surfaces × µ × clamp / cutting, [-].

    Args:
        clamp_n: force of the jaws or clamps. [N]
        friction: coefficient, above 0. [-]
        surfaces: faces that grip: 2 in a vise, 3 in a three-jaw chuck.
        cutting_n: force of the cut, above 0. [N]

    Source:
        Coulomb friction; own derivation.
    """
    return surfaces * friction * clamp_n / cutting_n


@dataclass(frozen=True, slots=True)
class Strap:
    """What a strap clamp does.

    Args:
        on_work_n: force on the work. [N]
        share: of the stud's force. [-]
    """

    on_work_n: float
    share: float


def strap_clamp(stud_n: float, to_work_mm: float, to_heel_mm: float) -> Strap:
    """Return the force of a strap clamp on the work: the lever shares it, F × heel / (heel + work).

    Args:
        stud_n: force of the stud. [N]
        to_work_mm: stud to toe, above 0. [mm]
        to_heel_mm: stud to heel, above 0. [mm]

    Source:
        Lever; own derivation. The stud stands near the work.
    """
    share = to_heel_mm / (to_heel_mm + to_work_mm)
    return Strap(stud_n * share, share)


def nut_shear_area(thread: Thread) -> float:
    """Return the area over which an internal thread shears, for each unit of engaged length, [unit²/unit].

    AS = π n D (1/(2n) + 0.57735 (D − E)), with D the screw's least major and E the nut's largest pitch diameter.

    Source:
        [h28]; the package of docs/sources.md prints 0.5390 for 1/4-20.
    """
    outside, inside = (
        thread_limits(thread, "external", "2A" if thread.unit == "in" else "6g"),
        thread_limits(thread, "internal"),
    )
    major, pitch = float(outside.major.low or thread.major), float(inside.pitch.high or thread.major)
    per_unit = 1 / float(thread.pitch)
    return pi * per_unit * major * (1 / (2 * per_unit) + (major - pitch) / sqrt(3))


def stripping_force_n(thread: Thread, engaged_mm: float, shear_mpa: float) -> float:
    """Return the pull that strips an internal thread, [N].

    Args:
        thread: the thread.
        engaged_mm: engaged length. [mm]
        shear_mpa: shear strength of the fixture's material. [N/mm²]

    Source:
        [h28].
    """
    scale = float(thread.mm(thread.major) / thread.major)
    return nut_shear_area(thread) * scale * engaged_mm * shear_mpa


@dataclass(frozen=True, slots=True)
class Ring:
    """What the jaws do to a thin ring.

    Args:
        in_mm: how far it goes in under each jaw, on the radius. [mm]
        out_mm: how far it comes out between jaws, on the radius. [mm]
        lobes_mm: out of round of a bore turned while it is gripped, once it is let go. [mm]
    """

    in_mm: float
    out_mm: float
    lobes_mm: float


def squeezed_ring(
    force_n: float,
    middle_radius_mm: float,
    wall_mm: float,
    width_mm: float,
    modulus: float,
    jaws: int = LOBES,
) -> Ring:
    """Return how a thin ring bends under equal jaws.

    Under the jaw: F R³ / (2 E I) × ((θ/2 + sin θ cos θ / 2) / sin² θ − 1/θ); between:
    F R³ / (4 E I) × (2/θ − 1/sin θ − θ cos θ / sin² θ), with θ half the angle between jaws.

    Args:
        force_n: of each jaw. [N]
        middle_radius_mm: to the middle of the wall. [mm]
        wall_mm: thickness. [mm]
        width_mm: along the axis. [mm]
        modulus: of elasticity. [N/mm²]
        jaws: how many, 2 or more.

    Raises:
        BadEntry: if the wall is thicker than a third of the radius: then it is no thin ring.

    Source:
        Ring under equally spaced radial loads, handbooks of stress, from memory [roark]; held to a frame model of its own.
    """
    if wall_mm > middle_radius_mm / 3:
        raise BadEntry(
            "The wall is too thick for a thin ring.",
            "It will hardly give; check the jaws' marks instead.",
            "inside",
        )
    theta = pi / jaws
    inertia = width_mm * wall_mm**3 / 12
    scale = force_n * middle_radius_mm**3 / (modulus * inertia)
    s, c = sin(theta), cos(theta)
    inward = scale / 2 * ((theta / 2 + s * c / 2) / s**2 - 1 / theta)
    outward = scale / 4 * (2 / theta - 1 / s - theta * c / s**2)
    return Ring(inward, outward, inward + outward)


def air_pressure_kpa(altitude_m: float) -> float:
    """Return the usual air pressure at an altitude, the most a vacuum can pull, [kPa].

    Source: standard atmosphere, 101.325 (1 − 2.25577e-5 h)^5.25588, [isa].
    """
    return float(STANDARD_KPA * (1 - 2.25577e-5 * altitude_m) ** 5.25588)


@dataclass(frozen=True, slots=True)
class Vacuum:
    """What a vacuum holds.

    Args:
        force_n: pressure difference × sealed area. [N]
        per_seal_n_mm: force for each length of seal, what pallets are compared by. [N/mm]
        sideways_n: what friction holds against a cut. [N]
    """

    force_n: float
    per_seal_n_mm: float
    sideways_n: float


def vacuum(
    area_mm2: float,
    seal_mm: float,
    gauge_kpa: float,
    altitude_m: float,
    friction: float,
    unit: LengthUnit = "mm",
) -> Vacuum:
    """Return what a vacuum pallet holds.

    Args:
        area_mm2: area inside the seal. [mm²]
        seal_mm: length of the seal, above 0. [mm]
        gauge_kpa: what the gauge shows below the air outside. [kPa]
        altitude_m: above the sea. [m]
        friction: coefficient. [-]
        unit: unit that a refusal is said in.

    Raises:
        BadEntry: if the gauge shows more than the air can give there.

    Source:
        F = Δp A: 100 × 150 mm at 80 kPa hold 1,200 N.
    """
    most = air_pressure_kpa(altitude_m)
    if gauge_kpa > most:
        raise BadEntry(
            f"{quantity_text('pressure', gauge_kpa, unit)} is more than the air gives there, {quantity_text('pressure', most, unit)}.",
            "Check the gauge and the unit.",
            "vacuum",
        )
    force = gauge_kpa * area_mm2 / 1000
    return Vacuum(force, force / seal_mm, force * friction)


def whirl_force_n(mass_kg: float, off_mm: float, rpm: float) -> float:
    """Return the force of a mass off the axis, m r ω², [N].

    Args:
        mass_kg: out of balance. [kg]
        off_mm: from the axis. [mm]
        rpm: speed. [rev/min]
    """
    omega = 2 * pi * rpm / 60
    return mass_kg * off_mm / 1000 * omega**2


def counterweight_kg(mass_kg: float, off_mm: float, at_mm: float) -> float:
    """Return the mass opposite that balances, m r / R, [kg]."""
    return mass_kg * off_mm / at_mm


SUPPORTS = {
    "none": 3.0,
    "centre": 768 / 7,
    "both ends": 192.0,
}  # EI/L³ over F/δ: free end; fixed and centre; fixed both


def deflection_mm(
    force_n: float, length_mm: float, across_mm: float, modulus: float, support: str = "none"
) -> float:
    """Return how far a round bar gives under the tool, [mm].

    Without support F L³ / 3EI at the free end; with a centre 7 F L³ / 768 EI in the middle; held at both ends
    F L³ / 192 EI in the middle.

    Args:
        force_n: of the cut. [N]
        length_mm: overhang or span. [mm]
        across_mm: diameter. [mm]
        modulus: of elasticity. [N/mm²]
        support: none, centre or both ends.

    Source:
        Beam theory, [beams]: steel Ø25, 100 mm, 500 N gives 0.041390 mm.

    Example:
        >>> round(deflection_mm(500, 100, 25, 210000), 5)
        0.04139
    """
    inertia = pi / 64 * across_mm**4
    return force_n * length_mm**3 / (SUPPORTS[support] * modulus * inertia)
