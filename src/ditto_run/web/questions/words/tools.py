"""What stands on the forms of Tools: what each sheet answers, the words below its fields, its choices."""

from ditto_run.core.shop.groups import GROUPS
from ditto_run.core.tools.spindle_sheet import HEAVY
from ditto_run.web.questions.words.form import SheetWords

WORK_WORDS = {
    "turn": "turn",
    "bore": "bore",
    "part": "groove or part off",
    "thread": "thread by single point",
    "drill": "drill",
    "spot": "spot",
    "ream": "ream",
    "tap": "tap",
    "mill": "mill",
    "knurl": "knurl",
}
TOOL_FORMS = {
    "stickout": SheetWords(
        "How far a tool has to stand out of its holder, against how far it does; flutes, holder and bend.",
        hints={
            "tip": "From what stands highest beside the cut: the raw top, a jaw.",
            "out": "From its holder. Empty while not known.",
            "cuts": "Its point or lead counted.",
            "force": "Empty: its bend is not worked out.",
            "longest": "Of turret or changer, by the machine’s manual.",
        },
        choices={"work": WORK_WORDS},
        beside=frozenset(["out", "clear", "flute", "nose", "edge"]),
    ),
    "speed": SheetWords(
        "Spindle speed and feed by handbook, by the shop’s own value, or by what the machine has.",
        hints={
            "across": "Of the cutter or drill; on a lathe of the work.",
            "rpm": "Rev/min; empty: what comes out.",
            "own": "It goes before the handbook’s.",
            "most": "Rev/min.",
            "speeds": "Such as 80 150 280 500; empty where any can be set.",
            "feed": "Empty: the usual one.",
            "teeth": "Of a milling cutter.",
            "pitch": "Of a thread; it is the feed.",
            "runout": "Dial at its edge, turned by hand.",
        },
        choices={"work": WORK_WORDS},
        beside=frozenset(["rpm", "across", "edge", "most", "feed"]),
    ),
    "spindle": SheetWords(
        "Power, torque and force of a cut against the machine, and lighter cuts where it is too heavy.",
        hints={
            "rpm": "Rev/min.",
            "across": "Of the cutter or drill; on a lathe of the work.",
            "depth": "On the radius of a lathe; a blade’s width.",
            "width": "Of a milling cutter.",
            "machine": "Its name; others are offered where it is too weak.",
            "takes": "The cut, a piece; for the times of other ways.",
            "amps": "By its plate; for what the ammeter shows.",
        },
        choices={
            "work": {name: WORK_WORDS[name] for name in HEAVY},
            "taps": {"floating": "in a floating holder", "rigid": "rigid", "no": "not at all"},
        },
        beside=frozenset(["depth", "across", "feed", "kc11", "power"]),
    ),
    "cutting": SheetWords(
        "How long a tool cuts one piece: its way at feed, and its moves at rapid.",
        hints={
            "way": "Of all passes together.",
            "moves": "There and back counted each.",
            "rapid": "By the machine’s manual.",
            "accel": "Empty: at once.",
            "turns": "Of a tap: twice a hole.",
            "pace": "1 if empty.",
            "has": "For comparison.",
        },
        beside=frozenset(["way", "moves", "rapid", "turns"]),
    ),
    "passes": SheetWords(
        "Diameters, infeeds, layers or pecks one by one, as they are dialled or read off.",
        hints={
            "start": "To turn or bore.",
            "end": "To turn or bore.",
            "deep": "Of a thread, a layer cut or a hole.",
            "first": "Of a thread or a drill.",
            "deepest": "On the radius of a lathe; of a drill each peck after the first.",
            "least": "Of a thread; empty: any.",
            "last": "On the radius; empty: none is left.",
            "spring": "Of a thread; 1 if empty.",
            "compound": "From square to the axis; empty: the cross slide feeds.",
        },
        choices={
            "cut": {
                "turn": "turn",
                "bore": "bore",
                "thread": "thread by single point",
                "mill": "mill in layers",
                "drill": "drill in pecks",
            }
        },
        beside=frozenset(["start", "deep", "deepest", "last", "spring"]),
    ),
    "nose": SheetWords(
        "Nose, rake and coating of a turning tool for a material, and the feed that leaves the finish.",
        hints={
            "ra": "3.2 if empty; 125 µin are 3.2 µm.",
            "nose": "Empty: the smallest that does it.",
            "flank": "0 is a negative insert; empty while not known.",
        },
        choices={
            "group": {group.name: group.name for group in GROUPS},
            "stiff": {"stiff": "stiff", "slender": "slender work", "bored": "a bar in a hole"},
        },
        beside=frozenset(["ra", "nose"]),
    ),
    "direction": SheetWords(
        "Climb or conventional, by the screws of the table, the skin and the piece.",
        choices={
            "control": {"control": "a control", "dials": "dials and levers"},
            "skin": {"clean": "clean", "scale": "scale, sand or a burnt edge"},
            "wall": {"stiff": "stiff", "thin": "thin"},
        },
        beside=frozenset(["control"]),
    ),
    "centre": SheetWords(
        "What an edge above or below the centre does to diameter, face and angles, and how much to shim.",
        hints={"off": "By a rule pinched against the work, a height gauge, or half the pip on a face."},
        choices={"side": {"below": "below it", "above": "above it"}},
    ),
    "cutters": SheetWords(
        "The same cut with other cutters at hand: their times side by side, and what the batch saves.",
        hints={
            "rows": "Name; time of a piece: T01 face mill; 0:06.",
            "used": "As it stands among them.",
            "pieces": "1 if empty.",
        },
        beside=frozenset(["used"]),
    ),
    "tapping": SheetWords(
        "Rigid, floating, by power with the hand on the chuck, or by hand; and whether the tap may break.",
        hints={"thread": "M6, 1/4-20 UNC.", "percent": "75 if empty."},
        choices={
            "can": {"floating": "in a floating holder", "rigid": "rigid", "no": "not at all"},
            "control": {"control": "a control", "dials": "dials and levers"},
        },
        beside=frozenset(["thread", "can"]),
    ),
    "minutes": SheetWords(
        "Cutting, air, changes, hands and gauging of a load, floor to floor, and what of it is the most.",
        hints={
            "air": "A part of the cut.",
            "gauge": "All sizes of a piece.",
            "every": "1 if empty.",
            "pieces": "1 if empty.",
            "start": "A load if empty.",
            "pace": "1 if empty; of what the machine does.",
        },
        beside=frozenset(["cut", "change", "gauge", "beside", "start"]),
    ),
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
