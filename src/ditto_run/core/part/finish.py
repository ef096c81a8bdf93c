"""What a finish does to a size: aim and limits before it, worked back from the finished limits."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from statistics import NormalDist, fmean, stdev
from typing import Literal

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.units import MM_PER_INCH, LengthUnit, counted

Face = Literal[
    "none",
    "outside diameter",
    "bore",
    "length over two faces",
    "length over one face",
    "slot between two faces",
    "slot with one face",
    "outside thread",
    "inside thread",
]
FACTOR: dict[str, int] = {  # how many build-ups the size grows; [b1.1] for the pitch diameter of 60° threads
    "none": 0,
    "outside diameter": 2,
    "bore": -2,
    "length over two faces": 2,
    "length over one face": 1,
    "slot between two faces": -2,
    "slot with one face": -1,
    "outside thread": 4,
    "inside thread": -4,
}
LARGEST_MM = Decimal(10_000)
INSIDE = {"bore", "slot between two faces", "slot with one face", "inside thread"}
ENDS = {"length over two faces", "length over one face"}
SMALL_SHARE = Decimal("0.1")  # a shift under a tenth of the tolerance does not move the size
FEWEST_PAIRS = 3
Limit = Decimal | None


@dataclass(frozen=True, slots=True)
class Finish:
    """One finish of the part, as it was agreed.

    Args:
        key: its lasting number in the job.
        name: such as clear anodise or bead blast.
        film_low_um: least film thickness, or least removed. [µm]
        film_high_um: most. [µm]
        growth: build-up per face over film: 1 plating, 0.5 anodising, −1 what removes.
        bore_share: least share of the build-up that a bore gets, 0 to 1.
        edge_share: largest share of it that ends and edges get, 1 to 3.
        pairs: sizes of the same pieces before and after, over two faces, as typed.
        measured_um: range of the build-up on one face from those pairs; it replaces the film. [µm]
        why: why this one, in one sentence.
    """

    key: int
    name: str
    film_low_um: Decimal = Decimal(0)
    film_high_um: Decimal = Decimal(0)
    growth: Decimal = Decimal(1)
    bore_share: Decimal = Decimal(1)
    edge_share: Decimal = Decimal(1)
    pairs: str = ""
    measured_um: tuple[Decimal, Decimal] | None = None
    why: str = ""

    def build_up_um(self, face: str) -> tuple[Decimal, Decimal]:
        """Return the range of the build-up on one face, thinner in bores, thicker on ends, [µm]."""
        film = self.film_low_um * self.growth, self.film_high_um * self.growth
        low, high = self.measured_um or film
        if face in INSIDE:
            low *= self.bore_share
        if face in ENDS:
            high *= self.edge_share
        return min(low, high), max(low, high)


@dataclass(frozen=True, slots=True)
class Window:
    """Sizes before the finish that come out right after it.

    Args:
        low: least; None without a lower limit. [unit]
        high: largest; None without an upper limit. [unit]
        eaten: how much of the tolerance the finish's own range takes. [unit]
        possible: False if it takes all of it.
    """

    low: Limit
    high: Limit
    eaten: Decimal
    possible: bool = True

    @property
    def aim(self) -> Limit:
        """Middle of the window; None if it is open at one end, [unit]."""
        return None if self.low is None or self.high is None else (self.low + self.high) / 2


def window_before(
    finished: tuple[Limit, Limit],
    unit: LengthUnit,
    factor: int,
    build_up_um: tuple[Decimal, Decimal],
    decimals: int = 3,
) -> Window:
    """Return the window before a finish, so that every build-up in its range ends inside the finished limits.

    finished = before + factor × build-up, so before lies between lower − least shift and upper − most shift.

    Args:
        finished: lower and upper limit after the finish. [unit]
        unit: mm or in.
        factor: build-ups the size grows, see FACTOR. [-]
        build_up_um: least and most build-up on one face; below 0 where it removes. [µm]
        decimals: decimals of the answer; the window is rounded inwards.

    Returns:
        The window. `possible` is False where the range of the finish is wider than the tolerance.

    Raises:
        BadEntry: if the least build-up is above the most.

    Source:
        Own derivation; the factor 4 of 60° threads is [b1.1].

    Example:
        >>> window_before((Decimal("11.95"), Decimal("12")), "mm", 2, (Decimal(5), Decimal(10))).high
        Decimal('11.980')
    """
    least, most = build_up_um
    if least > most:
        raise BadEntry("The least build-up is above the most.", "Swap them.", "film_low")
    per_um = Decimal("0.001") if unit == "mm" else Decimal("0.001") / MM_PER_INCH
    shifts = sorted((factor * least * per_um, factor * most * per_um))
    step = Decimal(1).scaleb(-decimals)
    low = None if finished[0] is None else (finished[0] - shifts[0]).quantize(step, ROUND_CEILING)
    high = None if finished[1] is None else (finished[1] - shifts[1]).quantize(step, ROUND_FLOOR)
    possible = low is None or high is None or low <= high
    return Window(low, high, shifts[1] - shifts[0], possible)


@dataclass(frozen=True, slots=True)
class Shift:
    """What a before/after test shows.

    Args:
        mean_um: mean change of the size; below 0 is smaller. [µm]
        low_um: lower end of what the next piece will change, in 8 of 10. [µm]
        high_um: upper end. [µm]
        moves: False if the range holds 0 or stays under a tenth of the tolerance.
    """

    mean_um: float
    low_um: float
    high_um: float
    moves: bool


def shift_of_pairs(pairs_mm: Sequence[tuple[Decimal, Decimal]], tolerance_mm: Decimal | None) -> Shift:
    """Return what a finish does to a size, from the same pieces measured before and after.

    Args:
        pairs_mm: size before and after, 3 pieces or more. [mm]
        tolerance_mm: width of the tolerance, if there is one. [mm]

    Raises:
        BadEntry: with fewer than 3 pairs.

    Source:
        Prediction interval of one more piece at 80 %, mean ± t s √(1 + 1/n), [nist].
    """
    if len(pairs_mm) < FEWEST_PAIRS:
        raise BadEntry(
            f"{counted(len(pairs_mm), 'pair')} {'shows' if len(pairs_mm) == 1 else 'show'} too little.",
            "Measure three pieces or more before and after.",
            "pairs",
        )
    changes = [float((after - before) * 1000) for before, after in pairs_mm]
    mean, n = fmean(changes), len(changes)
    reach = t_80(n - 1) * stdev(changes) * (1 + 1 / n) ** 0.5
    small = (
        tolerance_mm is not None
        and max(abs(mean - reach), abs(mean + reach)) < float(SMALL_SHARE * tolerance_mm) * 1000
    )
    return Shift(mean, mean - reach, mean + reach, not (small or mean - reach <= 0 <= mean + reach))


def t_80(freedom: int) -> float:
    """Return Student's t that holds the middle 80 %, for 1 degree of freedom or more, [-].

    Hill's expansion of the inverse, within 0.1 % from 3 on; exact for 1 and 2.

    Source: Hill 1970, from memory; held to scipy by tests/core/part/test_finish.py.
    """
    if freedom == 1:
        return 3.0776835
    if freedom == 2:  # noqa: PLR2004
        return 1.8856181
    z = NormalDist().inv_cdf(0.9)
    g1, g2 = (z**3 + z) / 4, (5 * z**5 + 16 * z**3 + 3 * z) / 96
    g3 = (3 * z**7 + 19 * z**5 + 17 * z**3 - 15 * z) / 384
    return z + g1 / freedom + g2 / freedom**2 + g3 / freedom**3


def read_pairs(text: str, unit: LengthUnit) -> list[tuple[Decimal, Decimal]]:
    """Return pairs of sizes typed as `12.000 12.004`, one pair a line or parted by semicolons, [mm].

    Raises:
        BadEntry: at the first line that is not a pair.
    """
    found = []
    for line in text.replace(";", "\n").splitlines():
        if not line.strip():
            continue
        pair = lengths_of(line, unit, "pairs")
        if len(pair) != 2:  # noqa: PLR2004 - before and after
            raise BadEntry(
                f"“{line.strip()[:30]}” is not a pair of sizes.",
                "Type before and after, parted by a space.",
                "pairs",
            )
        before, after = pair
        if not (0 < before < LARGEST_MM and 0 < after < LARGEST_MM):
            raise BadEntry(f"“{line.strip()[:30]}” is out of range.", "Type sizes above zero.", "pairs")
        found.append((before, after))
    return found
