"""What stands on the forms of Part: what each sheet answers, the words below its fields, its choices."""

from ditto_run.web.questions.words.form import SheetWords

PART_FORMS = {
    "thread": SheetWords(
        "Limits, tap drill from the drawer, strength, depth and wires of a thread.",
        hints={
            "thread": "M6, M10x1 6g, 1/4-20, #10-32, G1/4, 1/8 NPT, Tr20x4, 1/4 BSW; any other as 10.3 x 1.1 mm.",
            "tolerance_class": "2B, 6H; the usual one if empty.",
            "percent": "75 if empty, 100 of a trapezoidal one; 60 is far easier on the tap.",
            "drill": "What % does it give?",
            "depth": "Empty for a through hole.",
            "room": "Depth there is.",
            "wire": "For an outside thread; the best ones if empty.",
        },
        labels={"drill": "Or the drill at hand"},
        choices={
            "side": {"internal": "inside, tapped", "external": "outside, cut"},
            "lead": {"plug": "plug, 4 threads", "taper": "taper, 9 threads", "bottoming": "bottoming, 1.5"},
        },
        beside=frozenset(["side", "percent", "depth"]),
    ),
    "fit": SheetWords(
        "Classes both ways, play of two real sizes, the reamer at hand.",
        hints={
            "nominal": "12, 1/2, 12 mm.",
            "classes": "Such as H7/g6; they go before what it is for.",
            "hole": "Two real sizes show their play.",
        },
        choices={"basis": {"hole": "basic hole", "shaft": "basic shaft"}},
        beside=frozenset(["basis", "hole"]),
    ),
    "gauging": SheetWords(
        "Every how many loads a size is gauged, by how fast it moves and how much room it has.",
        hints={
            "size": "With both limits, such as 12 ±0.05.",
            "drift": "What the reading moves in 100 pieces.",
            "pieces": "1 if empty.",
        },
        beside=frozenset(["drift"]),
    ),
    "taper": SheetWords(
        "Any three of two ends, length and angle give the fourth; how to set the slide.",
        hints={
            "large": "Three of these four.",
            "small": "0 for a point.",
            "angle": "16.6 or 16°36'.",
            "slide": "Half the included one.",
            "between": "For a set-over tailstock.",
            "sine_bar": "Its length, such as 5 in.",
        },
        labels={"slide": "Or the slide's angle"},
        beside=frozenset(["large", "length", "between"]),
    ),
    "profile": SheetWords(
        "A turned part as a typed table: drawn to scale, dips and joins found.",
        hints={
            "rows": "From, to, diameter; then a second diameter for a taper, R and a radius, and the word groove. Such as: 0 25 8 R0.4",
            "join": "{0.01 mm} if empty.",
            "bar": "A bar of Measured stock.",
        },
        choices={"radii": {"ask": "want a radius", "free": "may be sharp"}},
        beside=frozenset(["join"]),
    ),
    "pattern": SheetWords(
        "Equal spacing along a line or round a circle, as read-out presets.",
        hints={
            "diameter": "For a circle.",
            "angle": "From +X, anticlockwise; of the line for a line.",
            "sweep": "360 if empty: the whole circle.",
            "hole": "For the wall between.",
            "first": "For a line.",
        },
        choices={"shape": {"circle": "a circle", "line": "a line"}},
        beside=frozenset(["shape", "diameter", "sweep", "centre_x", "first"]),
    ),
    "bend": SheetWords(
        "Flat length of a bent form, die and rollers, spring-back from trials.",
        hints={
            "stock": "From Measured stock.",
            "angle": "90 if empty.",
            "straights": "Between the tangent points, such as 20 30 20.",
            "factor": "Empty: by radius over thickness.",
            "trials": "A pair a line, such as 92 90.",
            "spacing": "Centre to centre.",
        },
        labels={"thickness": "Or its thickness"},
        choices={"trials_in": {"angle": "angles, °", "radius": "radii"}},
        beside=frozenset(["stock", "radius", "spacing"]),
    ),
}
