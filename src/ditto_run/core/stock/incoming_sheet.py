"""The incoming check."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.stock.blank import BLANK_FOUND, Blank
from ditto_run.core.stock.incoming import Received, incoming_findings
from ditto_run.core.units import counted, length_text


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the incoming check.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    blank: Blank | None = known.of(BLANK_FOUND)
    if blank is None:
        raise BadEntry("The blank is not described.", "Describe it under Blank first.", "across")
    sizes = [Received("section", blank.across_mm, entries.mm("across", "12"))]
    if entries.has("length"):
        sizes.append(Received("length", blank.length_mm, entries.mm("length")))
    findings = incoming_findings(sizes, known.unit)
    bad = [finding for finding in findings if finding.weight != "note"]
    return Answer(
        f"{counted(len(bad), 'size')} {'is' if len(bad) == 1 else 'are'} short."
        if bad
        else f"It is large enough: {' and '.join(size.name for size in sizes)} measured.",
        "Measured against the blank, smallest place first.",
        tuple(
            Fact(
                size.name.capitalize(),
                length_text(size.measured_mm, known.unit),
                f"needs {length_text(size.needed_mm, known.unit)}",
            )
            for size in sizes
        ),
        findings=tuple(findings),
        result=tuple(sizes),
        source="rule of the Stock step",
    )


INCOMING = SheetKind(
    "incoming",
    "stock",
    "Incoming check",
    (
        Entry("across", "Smallest section"),
        Entry("length", "Shortest length"),
    ),
    compute,
)
