"""What stands on the forms of Tools: what each sheet answers, the words below its fields, its choices."""

from ditto_run.web.questions.words.form import SheetWords

TOOL_FORMS = {
    "lives": SheetWords(
        "At which piece each tool comes up, what is changed with it, and whether there are enough.",
        hints={
            "rows": "Name; cuts a piece; lasts; left; spares: T03; 0:41; 45 min; 15 min; 1. Without left: all of it.",
            "pieces": "What the job starts if empty.",
            "load": "1 if empty.",
        },
        beside=frozenset(["pieces"]),
    ),
    "hole": SheetWords(
        "Spot, pilot, drill, ream or bore, pecks and depth of a hole, with the rule that decided.",
        hints={
            "hole": "12 H7, 8 +0.1/0, 6.6.",
            "depth": "Empty while not known.",
            "room": "Empty: not looked at.",
            "place": "Empty where the drawing does not say.",
        },
        choices={
            "through": {"blind": "blind", "through": "through"},
            "entry": {"machined": "a machined face", "raw": "a face as it came", "round": "a round"},
            "drill": {"jobber": "jobber", "stub": "stub, short and stiff"},
        },
        beside=frozenset(["hole", "depth", "entry"]),
    ),
}
