"""What stands on the forms of Place: what each sheet answers, the words below its fields, its choices."""

from ditto_run.web.questions.words.form import SheetWords

PLACE_FORMS = {
    "edge": SheetWords(
        "The zero from one edge, touched once or several times.",
        hints={
            "touches": "What the machine position shows, parted by spaces.",
            "probe": "0 if its tip itself touches.",
            "inward": "0 if empty.",
        },
        choices={"shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"}},
        beside=frozenset(["side", "probe"]),
    ),
    "halves": SheetWords(
        "The middle of a width or a slot; the probe's size drops out.",
        hints={
            "first": "Touches parted by spaces.",
            "probe": "0 if its tip itself touches.",
            "allowed": "{0.1 mm} if empty.",
        },
        choices={
            "kind_of": {"outside": "outside: a width", "inside": "inside: a slot"},
            "shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"},
        },
        beside=frozenset(["axis", "first", "probe", "wanted"]),
    ),
    "bore": SheetWords(
        "The middle by three, four or more touches, with diameter and roundness.",
        hints={
            "points": "X and Y, a line each.",
            "probe": "0 if its tip itself touches.",
            "round_limit": "{0.02 mm} if empty.",
            "allowed": "{0.1 mm} if empty.",
        },
        choices={"shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"}},
        beside=frozenset(["kind_of", "probe", "wanted"]),
    ),
    "corner": SheetWords(
        "The corner where jaw and stop meet, and how far the jaw runs out of X.",
        hints={
            "along": "X and Y of each touch, a line each, two or more.",
            "stop": "X and Y, a line each, one or more.",
            "probe": "0 if its tip itself touches.",
            "skew": "0.05 if empty.",
        },
        choices={"shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"}},
        beside=frozenset(["probe", "jaw_side"]),
    ),
    "height": SheetWords(
        "Z from a pad, paper, a skim, the face itself or half the thickness.",
        hints={"touches": "What Z shows, parted by spaces.", "lower": "0 if empty."},
        choices={
            "how": {
                "direct": "the tip touches the face itself",
                "paper": "paper under the tip",
                "pad": "a Z pad or gauge block",
                "skim": "the face was skimmed",
                "half": "half the thickness",
            },
            "shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"},
        },
        beside=frozenset(["between"]),
    ),
    "line": SheetWords(
        "How far a plate lies turned, by the line from one hole to another.",
        hints={"points": "X and Y, a line each.", "allowed": "{0.1 mm} if empty.", "drawn": "0 along X."},
        choices={"shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"}},
        beside=frozenset(["wanted", "drawn"]),
    ),
    "reversal": SheetWords(
        "Measure, turn half round, measure again: centre of rotation, squareness, level.",
        hints={"at_0": "Touches parted by spaces."},
        choices={
            "what": {"centre": "centre of rotation", "square": "squareness"},
            "shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"},
        },
        beside=frozenset(["at_0", "axis"]),
    ),
    "testcut": SheetWords(
        "What to add to a tool, or to a dial, after a test cut: tool tip or diameter.",
        choices={
            "cut": {
                "outside": "a turned diameter, by the tool tip",
                "inside": "a turned bore, by the tool tip",
                "face": "a face or length along Z",
                "slot": "a slot or pocket, by the cutter's diameter",
                "contour": "an outside contour, by the cutter's diameter",
            },
            "shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"},
        },
        beside=frozenset(["wanted"]),
    ),
    "stations": SheetWords(
        "Time per piece, pieces at risk and the wait for the first check, against the number of stations.",
        hints={
            "setup": "Its times are taken where a field below is empty.",
            "ready": "5 min.",
            "quantity": "Those wanted if empty.",
            "tolerance": "Whole width.",
            "most": "12 if empty.",
        },
        beside=frozenset(["cut", "handling", "ready", "repeat", "tolerance"]),
    ),
    "fill": SheetWords(
        "How many of a holder fit, in reach and clear of everything.",
        hints={"gap": "0 if empty."},
        choices={"handle": {"on": "stay on", "off": "come off"}, "beside": {"there": "as it is laid out"}},
        beside=frozenset(["setup", "gap"]),
    ),
    "features": SheetWords(
        "Shift and turn of a pallet or casting by two or more features, with what is left at each.",
        hints={
            "features": "Drawn X Y and measured X Y, four numbers a line.",
            "limit": "{0.02 mm} if empty.",
        },
        choices={"shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"}},
        beside=frozenset(["limit"]),
    ),
    "rotary": SheetWords(
        "The part's zero at every angle of a rotary or flipped holder, about the stored centre.",
        hints={
            "centre": "Its two coordinates.",
            "zero": "Its two coordinates.",
            "angles": "Parted by spaces: 0 90 180 270.",
        },
        choices={
            "axis": {"A": "A: Y and Z", "B": "B: Z and X", "C": "C: X and Y"},
            "positive": {"left": "to the left", "right": "to the right"},
            "shown": {"": "the drawing's unit", "mm": "millimetres", "in": "inches"},
        },
        beside=frozenset(["axis", "centre"]),
    ),
}
