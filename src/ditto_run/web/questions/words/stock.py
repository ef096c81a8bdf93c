"""What stands on the forms of Stock: what each sheet answers, the words below its fields, its choices."""

from ditto_run.web.questions.words.form import SheetWords

STOCK_FORMS = {
    "blank": SheetWords(
        "What a piece is cut from: finished sizes, allowance of each face, grip.",
        hints={
            "length": "X of a block; the part’s own if empty.",
            "across": "For a bar.",
            "width": "For a block.",
            "facing": "0 if empty.",
            "skin": "Left on the diameter; on each face of a block.",
            "grip": "Held and cut away; 0 where the bar is held.",
            "square": "Over the section, measured.",
        },
        choices={"shape": {"bar": "round bar", "block": "flat bar or plate"}},
        beside=frozenset(["shape", "width", "facing", "grip"]),
    ),
    "starts": SheetWords(
        "Good, trials, spares and scrap, at the sureness you want.",
        hints={
            "confidence": "90 if empty; 50 to 99.9.",
            "trials": "Those of the chosen way if empty.",
            "scrap": "That of the chosen way if empty.",
            "history_good": "What came out good",
            "history_made": "of such parts.",
            "own": "It is held against the answer.",
        },
        labels={"history_good": "Or: good before"},
        beside=frozenset(["confidence", "history_good"]),
    ),
    "cuts": SheetWords(
        "Pieces of a bar, bars to buy, the cut list, stick-out in front and behind.",
        hints={
            "bar": "Its length.",
            "kerf": "Blade or part-off tool.",
            "remnant": "Remnant that cannot be used.",
            "facing": "Of each bar.",
            "piece": "The blank's length if empty.",
            "across": "The blank's if empty.",
            "pieces": "How many to start, if empty.",
            "rear": "Not guided behind the spindle.",
        },
        choices={"how": {"part off": "parting off", "saw": "the saw"}},
        beside=frozenset(["bar", "how", "facing", "piece", "pieces"]),
    ),
    "mixed": SheetWords(
        "Several lengths from several bars and offcuts: fewest bars, then the longest offcut.",
        hints={
            "rows": "420 x 12 strut",
            "stock": "3000 for as many as wanted; 1740 x 1 A7 offcut for a named one.",
        },
        beside=frozenset(["kerf"]),
    ),
    "mass": SheetWords(
        "What the material weighs and costs, and how many bins the chips fill.",
        hints={"finished": "The envelope if empty.", "bin": "60 l if empty."},
        beside=frozenset(["chips"]),
    ),
    "incoming": SheetWords(
        "What came against the blank.",
        hints={"across": "Diameter, or the smaller side.", "length": "Of sawn blanks; empty for bars."},
        beside=frozenset(["across"]),
    ),
}
