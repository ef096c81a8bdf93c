"""What stands on the forms of Tools: what each sheet answers, the words below its fields, its choices."""

from ditto_run.web.questions.words.form import SheetWords

TOOL_FORMS = {
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
