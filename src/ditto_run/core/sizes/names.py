"""Sizes that go by a name: number and letter drills, number screws, metric threads, spoken numbers."""

from decimal import Decimal

# Number drills 1 to 80 and letter drills A to Z, inch. Source: [b94.11], from memory; spot values in
# docs/sources.md are held by tests/published/test_drills.py.
NUMBER_DRILLS_IN = [
    ".2280",
    ".2210",
    ".2130",
    ".2090",
    ".2055",
    ".2040",
    ".2010",
    ".1990",
    ".1960",
    ".1935",
    ".1910",
    ".1890",
    ".1850",
    ".1820",
    ".1800",
    ".1770",
    ".1730",
    ".1695",
    ".1660",
    ".1610",
    ".1590",
    ".1570",
    ".1540",
    ".1520",
    ".1495",
    ".1470",
    ".1440",
    ".1405",
    ".1360",
    ".1285",
    ".1200",
    ".1160",
    ".1130",
    ".1110",
    ".1100",
    ".1065",
    ".1040",
    ".1015",
    ".0995",
    ".0980",
    ".0960",
    ".0935",
    ".0890",
    ".0860",
    ".0820",
    ".0810",
    ".0785",
    ".0760",
    ".0730",
    ".0700",
    ".0670",
    ".0635",
    ".0595",
    ".0550",
    ".0520",
    ".0465",
    ".0430",
    ".0420",
    ".0410",
    ".0400",
    ".0390",
    ".0380",
    ".0370",
    ".0360",
    ".0350",
    ".0330",
    ".0320",
    ".0310",
    ".0292",
    ".0280",
    ".0260",
    ".0250",
    ".0240",
    ".0225",
    ".0210",
    ".0200",
    ".0180",
    ".0160",
    ".0145",
    ".0135",
]
LETTER_DRILLS_IN = [
    ".234",
    ".238",
    ".242",
    ".246",
    ".250",
    ".257",
    ".261",
    ".266",
    ".272",
    ".277",
    ".281",
    ".290",
    ".295",
    ".302",
    ".316",
    ".323",
    ".332",
    ".339",
    ".348",
    ".358",
    ".368",
    ".377",
    ".386",
    ".397",
    ".404",
    ".413",
]
# Coarse pitches. Source: [iso261], from memory.
COARSE_PITCH_MM = {
    "1": ".25",
    "1.2": ".25",
    "1.6": ".35",
    "2": ".4",
    "2.5": ".45",
    "3": ".5",
    "3.5": ".6",
    "4": ".7",
    "5": ".8",
    "6": "1",
    "7": "1",
    "8": "1.25",
    "10": "1.5",
    "12": "1.75",
    "14": "2",
    "16": "2",
    "18": "2.5",
    "20": "2.5",
    "22": "2.5",
    "24": "3",
    "27": "3",
    "30": "3.5",
    "33": "3.5",
    "36": "4",
    "39": "4",
    "42": "4.5",
    "48": "5",
    "56": "5.5",
    "64": "6",
}
WORDS = {
    "one": 1,
    "two": 2,
    "three": 3,
    "four": 4,
    "five": 5,
    "six": 6,
    "seven": 7,
    "eight": 8,
    "nine": 9,
    "ten": 10,
    "eleven": 11,
    "twelve": 12,
    "thirteen": 13,
    "fourteen": 14,
    "fifteen": 15,
    "sixteen": 16,
    "twenty": 20,
    "thirty": 30,
    "half": "1/2",
    "a": "1",
}
PARTS = {"half": 2, "quarter": 4, "eighth": 8, "sixteenth": 16, "thirty-second": 32, "sixty-fourth": 64}


def drill_in(name: str) -> Decimal | None:
    """Return the diameter of a number or letter drill; None if there is none of that name, [in]."""
    if name.isdigit():
        number = int(name)
        return Decimal(NUMBER_DRILLS_IN[number - 1]) if 1 <= number <= len(NUMBER_DRILLS_IN) else None
    index = ord(name.upper()) - ord("A")
    return Decimal(LETTER_DRILLS_IN[index]) if len(name) == 1 and 0 <= index < len(LETTER_DRILLS_IN) else None


def number_screw_in(number: int) -> Decimal:
    """Return the major diameter of a number screw, 0.060 + 0.013 n. [in] Source: [b1.1]."""
    return Decimal("0.060") + Decimal("0.013") * number


def words_to_digits(text: str) -> str:
    """Return "seven over three quarters" as "7 over 3/4"; other text unchanged."""
    words = text.split()
    found: list[str] = []
    for word in words:
        part = PARTS.get(word.lower().removesuffix("s"))
        if part and found and found[-1].isdigit():
            found[-1] = f"{found[-1]}/{part}"
        else:
            found.append(str(WORDS.get(word.lower(), word)))
    return " ".join(found)
