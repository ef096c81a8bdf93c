"""What stands on the forms of Hold: what each sheet answers, the words below its fields, its choices."""

from ditto_run.web.questions.words.form import SheetWords

HOLD_FORMS = {
    "sawn": SheetWords(
        "How far a piece leans that sits on its sawn end, and what facing has to take away.",
        hints={"square": "Over the section, measured.", "facing": "Not asked about if empty."},
        beside=frozenset(["square", "length"]),
    ),
    "ladder": SheetWords(
        "Where the blade stands for each piece of one pull. Set: zero the edge on the face. Confirm: measure the first piece.",
        hints={
            "length": "From Bars and cuts if empty.",
            "kerf": "From Bars and cuts if empty.",
            "repeat": "±, from ten touches.",
            "tolerance": "Whole width.",
        },
        choices={"edge": {"chuck side": "chuck side of the blade", "free end side": "free-end side"}},
        beside=frozenset(["length", "count", "repeat"]),
    ),
    "stop": SheetWords(
        "Vise stop, pin in a jaw, collet stop, tool tip or screw-in depth: will it stop, and what does its error do?",
        hints={
            "shorter": "Same stop.",
            "pin": "Pin in a jaw.",
            "overlap": "Tool tip.",
            "slack": "Tool tip: open collet.",
            "thread": "Screwed in: M10.",
            "repeat": "±, from ten touches.",
            "tolerance": "Whole width.",
        },
        choices={
            "kind_of_stop": {"vise": "vise stop", "collet": "collet stop", "screw in": "screwed in to depth"}
        },
        beside=frozenset(["side", "height", "pin", "slack", "thread", "repeat"]),
    ),
    "blocks": SheetWords(
        "Shoulders from one carriage or cross-slide stop: fewest blocks from the set owned, exact.",
        hints={
            "sizes": "In the set's unit, parted by spaces: 12.345 20 31.5",
            "wear": "Thickness of each of the two.",
            "own": "Parted by spaces.",
            "repeat": "±, from ten touches.",
            "tolerance": "Whole width.",
        },
        choices={
            "set": {"metric 88": "metric, 88 blocks", "inch 81": "inch, 81 blocks", "own": "our own spacers"}
        },
        beside=frozenset(["set", "repeat"]),
    ),
    "dial": SheetWords(
        "Turns, divisions and clock positions; presets with the cutter's radius; laps round an outline.",
        hints={
            "places": "Parted by spaces: 12.5 31.5",
            "per_turn": "Travel of the hand-wheel.",
            "divisions": "100 if empty.",
            "finish": "Thin; 0 for none.",
        },
        beside=frozenset(["per_turn", "cutter", "width", "deep", "touch_a"]),
    ),
    "segments": SheetWords(
        "Long slender work: cut a stretch near the collet, pull, repeat.",
        hints={
            "rows": "From, to, diameter, and a second one for a taper: 0 60 8",
            "reach": "3 × bar if empty.",
            "clear": "{0.01 mm} if empty.",
        },
        beside=frozenset(["bar_across", "pass"]),
    ),
    "strip": SheetWords(
        "Several pieces milled in one strip, then slit apart.",
        beside=frozenset(["length", "strip"]),
    ),
    "grip": SheetWords(
        "Force of the vise, chuck or clamps against the cut, grip depth and place in the jaw.",
        hints={
            "cutting": "From Method, Can the machine do it.",
            "rated": "Of the maker; else torque.",
            "k": "0.2 dry if empty; 0.15 oiled.",
            "friction": "0.15 if empty; 0.3 serrated.",
            "depth": "Depth in the jaws.",
        },
        choices={"holder": {"chuck": "three-jaw chuck"}},
        beside=frozenset(["holder", "rated", "screw", "depth", "offset"]),
    ),
    "clamps": SheetWords(
        "Pull of a screw, what reaches the work, and whether the fixture's thread strips.",
        hints={
            "thread": "M8, 1/4-20.",
            "k": "0.2 dry if empty.",
            "every": "25 pieces if empty.",
            "to_work": "Strap clamp.",
        },
        beside=frozenset(["thread", "material", "k", "to_work", "heel", "gap"]),
    ),
    "nest": SheetWords(
        "Size of a nest or a step in the jaws, what else it fits, what a jack lifts, what an arbor carries over.",
        hints={
            "largest": "At its upper limit.",
            "clearance": "{0.02 mm} if empty.",
            "others": "Parted by spaces: which fit too?",
        },
        beside=frozenset(["largest", "clearance", "others", "jack", "span", "thick", "arbor"]),
    ),
    "on_hole": SheetWords(
        "How far off a piece may sit that is located by a hole on a pin.",
        hints={"pin": "As measured.", "zone": "Width of the zone, Ø; nothing if empty."},
        beside=frozenset(["largest", "zone"]),
    ),
    "thin": SheetWords(
        "How far jaws squeeze a ring, and what that does to its bore.",
        hints={"jaws": "3 if empty.", "allowed": "On the radius.", "margin": "Located by an existing hole."},
        beside=frozenset(["outside", "width", "material", "margin"]),
    ),
    "vacuum": SheetWords(
        "Force of a vacuum pallet, for each length of seal, against the cut; squeeze of the cord.",
        hints={"vacuum": "80 kPa, 24 inHg if empty.", "friction": "0.2 if empty."},
        beside=frozenset(["x", "vacuum", "cutting", "cord"]),
    ),
    "overhang": SheetWords(
        "How far it gives, what would support it; balance of a face plate.",
        choices={"support": {"none": "not at all", "centre": "by a centre", "both ends": "at both ends"}},
        beside=frozenset(["length", "force", "support", "mass", "rpm"]),
    ),
    "depth": SheetWords(
        "How deep it is gripped against what stands up.",
        beside=frozenset(["gripped"]),
    ),
    "marks": SheetWords(
        "What the holder leaves on the faces it presses, and whether they stay so.",
        choices={
            "face": {
                "raw": "stays as it comes",
                "finished": "is finished already",
                "cut later": "is cut later",
            }
        },
        beside=frozenset(["leaves"]),
    ),
    "reach": SheetWords(
        "What is left between the deepest tool and what lies below the piece.",
        beside=frozenset(["seat"]),
    ),
    "way_round": SheetWords(
        "Whether the piece can be loaded the wrong way round, and what keeps it from that.",
        hints={"proof": "A pin, a corner, a flat."},
        choices={"has_side": {"no": "no, the same turned round"}},
    ),
}
