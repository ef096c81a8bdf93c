"""What to ask before starting."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.errors import DittoError
from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.finish import Finish
from ditto_run.core.part.heading import Heading
from ditto_run.core.threads import read_thread


@dataclass(frozen=True, slots=True)
class CustomerQuestion:
    """One thing to ask.

    Args:
        code: short fixed name.
        ask: the question, as it may be sent.
        why: why it matters, for ourselves.
        about: number of the characteristic it is about; 0 for the job.
    """

    code: str
    ask: str
    why: str
    about: int = 0


def missing(
    heading: Heading, characteristics: Sequence[Characteristic], finishes: Sequence[Finish]
) -> list[CustomerQuestion]:
    """Return what is still to be asked, the job first, then each characteristic.

    Args:
        heading: head of the job.
        characteristics: what must come out the same.
        finishes: finishes of the part.

    Source:
        Rules of the Part step; free dimensions raise nothing.
    """
    found = _about_the_job(heading)
    by_key = {finish.key: finish for finish in finishes}
    for finish in finishes:
        if not finish.film_high_um and not finish.pairs:
            found.append(
                CustomerQuestion(
                    "no-thickness",
                    f"How thick is the {finish.name}, from and to?",
                    "Sizes before it are worked back from its range.",
                )
            )
    for c in characteristics:
        if c.grade != "free":
            found += _about(c, by_key)
    return found


def _about_the_job(heading: Heading) -> list[CustomerQuestion]:
    found = []
    if heading.quantity_is_guess:
        found.append(
            CustomerQuestion(
                "no-quantity",
                f"How many good pieces are wanted? {heading.quantity} is our guess.",
                "The way of making it hangs on the quantity.",
            )
        )
    if not heading.material:
        found.append(
            CustomerQuestion(
                "no-material",
                "What is it made of, with grade and condition?",
                "Speeds, forces and mass hang on it.",
            )
        )
    if heading.drawing and not heading.drawing_revision:
        found.append(
            CustomerQuestion(
                "no-revision",
                f"Which revision of drawing {heading.drawing} counts?",
                "An old print makes good scrap.",
            )
        )
    if heading.due is None:
        found.append(
            CustomerQuestion("no-date", "When is it wanted?", "Without a date every job is late or early.")
        )
    if heading.has_consequence and not heading.heat:
        found.append(
            CustomerQuestion(
                "no-heat",
                "Which heat and certificate does the material have?",
                f"A part that {heading.consequence_words} keeps its material trace.",
            )
        )
    if heading.has_consequence and not heading.approved_by:
        found.append(
            CustomerQuestion(
                "no-approval",
                "Who has designed and approved it?",
                f"A part that {heading.consequence_words} needs a competent person's approval.",
            )
        )
    if heading.customer_words and not heading.agreed:
        found.append(
            CustomerQuestion(
                "not-agreed",
                f"“{heading.customer_words[:80]}”: what does that mean in figures?",
                "Loose words are judged later by somebody else.",
            )
        )
    return found


def _about(c: Characteristic, finishes: dict[int, Finish]) -> list[CustomerQuestion]:
    found = []
    drawn = c.finished or c.size
    if c.grade == "critical" and not drawn.has_limits and not c.by_gauge_only:
        found.append(
            CustomerQuestion(
                "no-limits", f"Which limits has the {c.name}, {drawn.text}?", "It is critical.", c.number
            )
        )
    if drawn.kind == "thread" and not _thread_class(drawn.text):
        found.append(
            CustomerQuestion(
                "no-class",
                f"Which class has the thread {drawn.name}, {c.name}?",
                "Its gauge and its limits hang on it.",
                c.number,
            )
        )
    if c.mate and not c.mate_at_hand:
        found.append(
            CustomerQuestion(
                "no-mate",
                f"Can we have a {c.mate} to try the {c.name} with?",
                "The mating part is its gauge.",
                c.number,
            )
        )
    if c.customer_words and not c.agreed:
        found.append(
            CustomerQuestion(
                "words-not-agreed",
                f"{c.name}: “{c.customer_words[:80]}”; what is that in figures?",
                "Loose words are judged later by somebody else.",
                c.number,
            )
        )
    if c.finish is not None and c.finish in finishes and c.limits_hold == "ask":
        found.append(
            CustomerQuestion(
                "before-or-after",
                f"Do the limits of the {c.name} hold before or after the {finishes[c.finish].name}?",
                "The two differ by the build-up.",
                c.number,
            )
        )
    return found


def _thread_class(text: str) -> str:
    try:
        thread = read_thread(text)
    except DittoError:
        return "?"
    return thread.tolerance_class or ("taper" if thread.taper else "")


def questions_text(part: str, questions: Sequence[CustomerQuestion]) -> str:
    """Return the questions as a text to send: numbered, without our own reasons."""
    lines = [f"{part}: before we start, please tell us:"]
    lines += [f"{number}. {question.ask}" for number, question in enumerate(questions, 1)]
    return "\n".join(lines)
