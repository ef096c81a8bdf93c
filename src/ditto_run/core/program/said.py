"""What is said of a fault in a program: one sentence, and what to do; lightest words for the lightest weight."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.program.tally import ProgramFault

Weight = Literal["stop", "ask", "note"]
ORDER: tuple[Weight, ...] = ("stop", "ask", "note")


@dataclass(frozen=True, slots=True)
class ProgramSays:
    """A fault in words.

    Args:
        line: where.
        weight: stop, ask or note.
        problem: what it is, with its line.
        remedy: what to do.
        kind: of the fault.
    """

    line: int
    weight: Weight
    problem: str
    remedy: str
    kind: str


Words = tuple[Weight, str, str]
WORDS: dict[str, Words] = {
    "rapid_in_blank": ("stop", "a rapid goes through the blank", "Lift first, or note why it is clear."),
    "rapid_in_jaw": (
        "stop",
        "a rapid goes through a jaw or a holder",
        "Lift first; check the heights on Hold.",
    ),
    "feed_in_jaw": ("stop", "it feeds into a jaw or a holder", "Go less deep there, or hold it lower."),
    "spindle_off": ("stop", "it cuts with the spindle off", "Start the spindle before the cut."),
    "no_speed": ("stop", "it cuts with no speed said", "Say S before the cut."),
    "no_feed": ("stop", "it is to feed, and no feed is said that holds", "Say F in the mode that is on."),
    "cycle_z_above_r": ("stop", "the bottom of the cycle lies above its retract level", "Check R and Z."),
    "cycle_word_missing": ("stop", "the cycle lacks {word}", "Say it, or end the cycle before."),
    "g53_motion": ("stop", "G53 stands without G0 or G1", "Say G0 or G1 with it."),
    "arc_radius": (
        "stop",
        "the ends of the arc do not lie on one circle",
        "Check its centre, radius and end.",
    ),
    "arc_no_centre": ("stop", "the arc has neither centre nor radius", "Say I J K or R."),
    "css_while_threading": (
        "stop",
        "it threads while the surface speed is held",
        "Say G97 with a speed before.",
    ),
    "rpm_over": ("stop", "{word} is over what the machine turns", "Say a speed it has."),
    "beyond_travel": ("stop", "{word} leads beyond the machine’s travel", "Check the offset and the number."),
    "slow_air": ("ask", "it feeds {seconds} s through the air", "Go nearer at rapid, or feed faster there."),
    "slip": ("ask", "{word} leads far away from the blank", "Check the point and the sign."),
    "feed_slip": ("ask", "its feed is eight times off what this tool is fed", "Check the point."),
    "no_point": ("ask", "a number has no point and counts least increments", "Write the point."),
    "depth_differs": ("ask", "{word}", "Check the depth in the program, or on Part."),
    "place_differs": (
        "ask",
        "{word}",
        "Check the place in the program, or on Part; the zero may stand elsewhere.",
    ),
    "speed_differs": ("ask", "{word}", "Check the number, or say the shop’s own on Tools."),
    "tool_not_planned": ("ask", "{word} is not planned", "Put it on Tools, or check the number."),
    "offset_not_planned": ("ask", "{word} is not planned", "Put it on Place, or check the code."),
    "planned_tool_missing": ("ask", "{word} is planned and never called", "Check the program or Tools."),
    "planned_offset_missing": ("ask", "{word} is planned and never used", "A station is left out: check it."),
    "other_order": ("ask", "{word} comes in another order than planned", "Change Tools, or the program."),
    "same_offset_twice": (
        "ask",
        "the same cuts again under {word}",
        "The next station’s offset may be forgotten.",
    ),
    "no_stop": (
        "ask",
        "no stop after {word}, where a piece is gauged or worked by hand",
        "Put M0 or M1 behind its last cut.",
    ),
    "other_length": ("ask", "{word} is the length or wear of another tool", "Check the number."),
    "no_length": ("ask", "it goes down after a tool change without a length", "Say G43 with its H."),
    "no_rpm_cap": ("ask", "the surface speed is held without a cap", "Cap it for chuck and bar."),
    "offset_not_set": ("ask", "{word} is not set on the machine", "Set it, or check the code."),
    "no_tool": ("ask", "it cuts before any tool was called", "Call the tool."),
    "no_tool_word": ("ask", "M6 stands without a tool", "Say T with it."),
    "no_motion_mode": ("ask", "a place is said and no motion is on; nothing moves", "Say G0 or G1."),
    "two_of_one_group": ("ask", "two codes of one group stand together", "Part them."),
    "doubled_word": ("ask", "{word} is said twice", "Take one of them out."),
    "no_dwell_time": ("ask", "the dwell has no time", "Say P."),
    "open_comment": ("ask", "a comment is not closed; the rest of the line is not run", "Close it."),
    "after_end": ("ask", "what stands behind the end is not run", "Take it out, or move the end."),
    "no_end": ("ask", "the program has no end", "End it with M30."),
    "coolant_on_at_end": ("note", "coolant is still on at the end", "M9 before it."),
    "spindle_on_at_end": ("note", "the spindle still turns at the end", "M5 before it."),
    "spaced_number": ("note", "a blank stands inside the number {word}", "Check that it is one number."),
    "no_offset_word": ("note", "it moves before any work offset is said", "Say it at the start."),
}


def said_of(fault: ProgramFault) -> ProgramSays:
    """Return a fault in words.

    Args:
        fault: any that a reading gives.
    """
    weight, problem, remedy = WORDS[fault.kind]
    seconds = f"{fault.figures.get('seconds', 0):g}"
    words = problem.format(word=fault.word, seconds=seconds)
    return ProgramSays(fault.line, weight, f"Line {fault.line}: {words}.", remedy, fault.kind)
