"""Groups of materials that are cut alike, with the handbook's starting speeds."""

from dataclasses import dataclass

FOOT_M = 0.3048  # exact
CARBIDE_TIMES = (3.0, 5.0)  # of the speeds of high-speed steel; from memory
Band = tuple[float, float]


@dataclass(frozen=True, slots=True)
class MaterialGroup:
    """Materials that are cut alike.

    Args:
        name: what they are called together.
        stuff: what they are as a body: aluminium, brass, cast iron, plastic, steel; empty for another.
        words: by which a material's name is known; the first group with a word of it is its own.
        hss_sfm: turning and milling with high-speed steel, from and to. [ft/min]
        soft: whether they take the larger of two usual feeds.
        carbide_sfm: with carbide, where that is not three to five times as fast. [ft/min]
    """

    name: str
    stuff: str
    words: tuple[str, ...]
    hss_sfm: Band
    soft: bool = False
    carbide_sfm: Band | None = None

    @property
    def hss_m_min(self) -> Band:
        """With high-speed steel, from and to, [m/min]."""
        return self.hss_sfm[0] * FOOT_M, self.hss_sfm[1] * FOOT_M

    @property
    def carbide_m_min(self) -> Band:
        """With carbide, from and to, [m/min]."""
        low, high = self.carbide_sfm or tuple(
            speed * times for speed, times in zip(self.hss_sfm, CARBIDE_TIMES, strict=True)
        )
        return low * FOOT_M, high * FOOT_M


GROUPS = (  # speeds from memory, orders only; a plastic's are common practice, no source. docs/sources.md
    MaterialGroup(
        "aluminium", "aluminium", ("6061", "6082", "7075", "5083", "2024", "alu"), (200, 400), soft=True
    ),
    MaterialGroup("brass", "brass", ("brass", "bronze", "cz121", "360"), (200, 300), soft=True),
    MaterialGroup("cast iron", "cast iron", ("cast iron", "iron", "gjl", "gg25"), (60, 90)),
    MaterialGroup(
        "plastic",
        "plastic",
        ("acetal", "nylon", "pom", "peek", "ptfe", "plastic", "delrin", "hdpe"),
        (200, 500),
        soft=True,
        carbide_sfm=(300, 1000),
    ),
    MaterialGroup("stainless", "steel", ("stainless", "303", "304", "316", "17-4"), (50, 70)),
    MaterialGroup("alloy steel", "steel", ("4140", "4340", "42crmo4", "en19", "en24"), (70, 80)),
    MaterialGroup("titanium", "", ("titanium", "6al-4v", "6al4v"), (30, 50)),
    MaterialGroup("mild steel", "steel", ("steel", "1018", "1045", "c45", "en8", "s235", "s355"), (90, 110)),
)
GROUP_NAMES = tuple(group.name for group in GROUPS)


def group_of(material: str) -> MaterialGroup | None:
    """Return the group a material belongs to, by its name; None where its name does not tell.

    Args:
        material: as the job has it.

    Example:
        >>> group_of("316 stainless").name, group_of("unknown")
        ('stainless', None)
    """
    name = material.lower()
    return next((group for group in GROUPS if any(word in name for word in group.words)), None)


def group_named(name: str) -> MaterialGroup:
    """Return the group of that name, one of GROUP_NAMES."""
    return next(group for group in GROUPS if group.name == name)
