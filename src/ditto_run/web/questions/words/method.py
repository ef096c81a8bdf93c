"""What stands on the forms of Method: what each sheet answers, the words below its fields, its choices."""

from ditto_run.web.questions.words.form import SheetWords

METHOD_FORMS = {
    "order": SheetWords(
        "Operation by operation, in lots, or each piece complete.",
        hints={
            "rows": "Name; time a piece; handling; setting up; machine. Empty: the job's setups.",
            "pieces": "The job's quantity if empty.",
            "lot": "4 if empty.",
        },
        beside=frozenset(["pieces"]),
    ),
    "overlap": SheetWords(
        "Who waits for whom in a load, and what fits into the time the hands have.",
        choices={
            "attended": {
                "all the time": "stay with it",
                "start and stop": "deburr, gauge",
                "runs alone": "are free",
            }
        },
        beside=frozenset(["handling", "per_load", "pieces"]),
    ),
    "minding": SheetWords(
        "Who waits, machine or hands, how many machines one pair of hands serves, and which is started first.",
        hints={"rows": "Name; runs by itself; hands at it while it stands: Mill 2; 9:24; 2:15."},
    ),
    "time_box": SheetWords(
        "Which way comes farthest in half an hour, or before the van leaves.",
        hints={
            "time": "Half an hour, 2 h, 45 min.",
            "pieces": "The job's quantity if empty.",
            "rows": "Name; getting ready; each piece. Empty: the job's ways.",
        },
        beside=frozenset(["time"]),
    ),
    "rules": SheetWords(
        "Punching, deep holes, slender stems, rigid tools and reamer allowance against the rules of the trade.",
        choices={"support": {"none": "nothing", "centre": "a centre", "steady": "a steady"}},
        beside=frozenset(["hole_depth", "stem", "tool_out", "drilled", "punched"]),
    ),
    "machine": SheetWords(
        "Power, torque, speed, travel, bar and tapping against the machine.",
        hints={
            "speed": "100 m/min or 330 ft/min.",
            "feed": "A turn; a tooth when milling.",
            "width": "Milling: radial.",
            "teeth": "Milling; 4 if empty.",
            "thread": "Tapping: M6.",
            "travel_x": "With the cutter's radius.",
        },
        choices={"cutting": {"turn": "turning", "mill": "milling", "drill": "drilling", "tap": "tapping"}},
        beside=frozenset(["machine", "cutting", "speed", "depth", "teeth", "travel_x", "travel_z"]),
    ),
}
