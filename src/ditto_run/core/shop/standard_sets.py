"""Usual sets to start a register from."""

from fractions import Fraction

from ditto_run.core.sizes.names import LETTER_DRILLS_IN, NUMBER_DRILLS_IN

LARGEST_64THS = 64  # one inch
LARGEST_TENTHS = 130  # 13 mm


def drills() -> list[dict[str, str]]:
    """Return the full drawer: number 1 to 80, letter A to Z, 1/64 to 1 inch, 1 to 13 mm by tenths and on to 20 mm."""
    names = [f"#{n}" for n in range(1, len(NUMBER_DRILLS_IN) + 1)]
    names += [chr(ord("A") + n) for n in range(len(LETTER_DRILLS_IN))]
    names += [_fraction(n) for n in range(1, LARGEST_64THS + 1)]
    names += [f"{n / 10:g} mm" for n in range(10, LARGEST_TENTHS + 1)]
    names += [f"{n / 2:g} mm" for n in range(27, 41)]
    return [{"name": name} for name in names]


def _fraction(sixty_fourths: int) -> str:
    part = Fraction(sixty_fourths, 64)
    return "1 in" if part == 1 else f"{part.numerator}/{part.denominator}"


def taps() -> list[dict[str, str]]:
    """Return the common plug taps, inch and metric."""
    names = (
        "#4-40",
        "#6-32",
        "#8-32",
        "#10-24",
        "#10-32",
        "1/4-20",
        "1/4-28",
        "5/16-18",
        "3/8-16",
        "1/2-13",
        "1/8 NPT",
        "1/4 NPT",
        "M3",
        "M4",
        "M5",
        "M6",
        "M8",
        "M10",
        "M12",
    )
    return [{"thread": name, "lead": "plug"} for name in names]


def reamers() -> list[dict[str, str]]:
    """Return the common hand and machine reamers."""
    names = (
        "3 mm",
        "4 mm",
        "5 mm",
        "6 mm",
        "8 mm",
        "10 mm",
        "12 mm",
        "1/8",
        "3/16",
        "1/4",
        "5/16",
        "3/8",
        "1/2",
    )
    return [{"name": name, "cuts": ""} for name in names]


def materials() -> list[dict[str, str]]:
    """Return common materials. Density and cutting force from memory, see docs/sources.md; prices are made up."""
    rows = (
        ("6061-T6", "2.70", "7.50", "700", "0.25"),
        ("5083", "2.66", "6.80", "700", "0.25"),
        ("7075-T6", "2.81", "12.00", "800", "0.25"),
        ("free-cutting brass", "8.50", "11.00", "780", "0.18"),
        ("mild steel", "7.85", "2.20", "1990", "0.26"),
        ("C45", "7.85", "2.60", "2220", "0.14"),
        ("42CrMo4", "7.85", "3.80", "2500", "0.26"),
        ("316 stainless", "7.98", "8.40", "2350", "0.21"),
        ("grey iron", "7.20", "2.90", "1150", "0.26"),
        ("acetal", "1.41", "9.00", "200", "0.20"),
    )
    return [
        {
            "name": name,
            "density": f"{density} g/cm³",
            "price": f"{price} /kg",
            "kc11": f"{kc11} N/mm²",
            "mc": mc,
        }
        for name, density, price, kc11, mc in rows
    ]


def coatings() -> list[dict[str, str]]:
    """Return common finishes. Film ranges are common practice, no source; the plater's own go before them."""
    rows = (
        ("clear anodise", "8", "15", "0.5", "0.7", "1.2"),
        ("hard anodise", "30", "50", "0.5", "0.7", "1.3"),
        ("zinc plate", "5", "12", "1", "0.5", "1.5"),
        ("hard chrome", "10", "25", "1", "0.6", "1.6"),
        ("electroless nickel", "10", "15", "1", "0.95", "1.1"),
        ("powder coat", "60", "120", "1", "0.6", "1.3"),
        ("bead blast", "0", "3", "-1", "1", "1"),
        ("polish", "2", "8", "-1", "0.5", "1.5"),
    )
    names = ("name", "film_low", "film_high", "growth", "bore_share", "edge_share")
    marked = ((name, f"{low} µm", f"{high} µm", *shares) for name, low, high, *shares in rows)
    return [dict(zip(names, row, strict=True)) for row in marked]


def holders() -> list[dict[str, str]]:
    """Return a few usual holders to start from; spans, repeats and footprints are made up, to be replaced by what is measured."""
    names = ("name", "kind", "shape", "low", "high", "marks", "repeat", "torque", "next_time")
    body = ("body_x", "body_y", "tall", "seat", "jaw_width", "jaw_at", "handle_at", "handle_swing", "bolts")
    rows = (
        (
            "Vise, hard jaws",
            "vise",
            "flat",
            "5 mm",
            "150 mm",
            "light",
            "0.01 mm",
            "60 N·m",
            "",
            "150 mm",
            "330 mm",
            "120 mm",
            "85 mm",
            "150 mm",
            "45 mm",
            "75,-25",
            "70 mm",
            "0,150 150,150",
        ),
        (
            "Vise, soft jaws",
            "soft jaws",
            "any",
            "5 mm",
            "140 mm",
            "none",
            "0.01 mm",
            "40 N·m",
            "",
            "150 mm",
            "330 mm",
            "120 mm",
            "85 mm",
            "150 mm",
            "45 mm",
            "75,-25",
            "70 mm",
            "0,150 150,150",
        ),
        (
            "Self-centring vise",
            "self-centring vise",
            "flat",
            "8 mm",
            "120 mm",
            "light",
            "0.03 mm",
            "40 N·m",
            "",
            "90 mm",
            "150 mm",
            "90 mm",
            "65 mm",
            "90 mm",
            "30 mm",
            "",
            "",
            "10,75 80,75",
        ),
        (
            "Three-jaw chuck",
            "chuck",
            "round",
            "6 mm",
            "160 mm",
            "light",
            "0.05 mm",
            "",
            "",
            "200 mm",
            "200 mm",
            "110 mm",
            "95 mm",
            *[""] * 5,
        ),
        (
            "Toe clamps",
            "toe clamps",
            "flat",
            "0 mm",
            "60 mm",
            "light",
            "",
            "",
            "",
            "40 mm",
            "110 mm",
            "60 mm",
            "0 mm",
            "",
            "",
            "",
            "",
            "20,30",
        ),
        ("Collets", "collet", "round", "2 mm", "20 mm", "none", "0.01 mm", "", "", *[""] * 9),
        (
            "Collet block",
            "collet block",
            "round",
            "2 mm",
            "20 mm",
            "none",
            "0.03 mm",
            "",
            "",
            "50 mm",
            "50 mm",
            "70 mm",
            "10 mm",
            *[""] * 5,
        ),
        (
            "Angle plate",
            "angle plate",
            "flat",
            "0 mm",
            "150 mm",
            "none",
            "0.02 mm",
            "",
            "",
            "150 mm",
            "100 mm",
            "150 mm",
            "20 mm",
            *[""] * 5,
        ),
        (
            "Face plate",
            "face plate",
            "any",
            "60 mm",
            "280 mm",
            "light",
            "",
            "",
            "Balance it, stay slow.",
            *[""] * 9,
        ),
    )
    return [
        dict(zip((*names, *body), row, strict=True)) | ({"chuck": "160 mm"} if row[1] == "chuck" else {})
        for row in rows
    ]
