"""Cuts a line of shop language into words that are known, and what stands between them."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from ditto_run.core.part.faces import FACES
from ditto_run.core.part.features.kinds import BY_HAND, kind_words

KIND_OF = kind_words()
SUFFIXES = {
    "deep": "depth", "depth": "depth", "dp": "depth", "wide": "width", "long": "length", "high": "height", "tall": "height",
    "across flats": "across flats", "a/f": "across flats", "af": "across flats", "across": "across flats",
    "in diameter": "diameter", "diameter": "diameter", "dia": "diameter", "corner radius": "radius", "radius": "radius",
    "pitch": "pitch", "of thread": "depth", "thread deep": "depth",
}  # fmt: skip
EXTENTS = {
    "full length": "full length", "the full length": "full length", "full width": "full width", "the full width": "full width",
    "all round": "all round", "all around": "all round", "all over": "all round", "both ends": "both ends", "each end": "both ends",
    "both sides": "both sides", "each side": "both sides", "round ends": "round ends", "rounded ends": "round ends",
}  # fmt: skip
PARTS = {
    "counterbored": "counterbore", "counterbore": "counterbore", "cbore": "counterbore", "c'bore": "counterbore",
    "countersunk": "countersink", "countersink": "countersink", "csk": "countersink", "spotted": "spot", "spotface": "spot", "spot": "spot",
    "drilled": "drill", "drill": "drill",
}  # fmt: skip
ARRANGED = {
    "bolt circle": "circle", "circle": "circle", "pcd": "circle", "bc": "circle", "centres": "line", "centers": "line", "apart": "line",
    "grid": "grid",
}  # fmt: skip
MIDDLES = (
    "in the middle",
    "in the centre",
    "in the center",
    "on the centre",
    "on the center",
    "on centre",
    "on center",
    "central",
)
FACE_WORDS = sorted(
    {face for faces in FACES.values() for face in faces} | {"centre", "center"}, key=len, reverse=True
)
TokenKind = Literal[
    "kind",
    "suffix",
    "extent",
    "part",
    "arranged",
    "middle",
    "face",
    "from",
    "supplied",
    "opens",
    "runs",
    "at",
    "on",
    "to",
    "in",
    "through",
    "and",
    "stop",
    "x",
    "text",
]


@dataclass(frozen=True, slots=True)
class Token:
    """A piece of the line: what it is, what it means, and as typed."""

    what: TokenKind
    means: str
    typed: str


def _any(words: Iterable[str]) -> str:
    return "|".join(sorted((re.escape(word) for word in words), key=len, reverse=True))


FACE = _any(FACE_WORDS)
PATTERNS: tuple[tuple[TokenKind, str], ...] = (
    ("stop", r"[,;]"),
    ("x", r"x(?= )|x(?=[\d.Ø])|by\b"),
    ("x", r" (?=[RØ] ?[\d.])"),
    ("kind", rf"(?:{_any(KIND_OF)})\b"),
    ("extent", rf"(?:{_any(EXTENTS)})\b"),
    ("middle", rf"(?:{_any(MIDDLES)})\b"),
    ("supplied", r"(?:as )?(?:supplied|cast|cut[- ]out)\b"),
    ("opens", rf"(?:open(?: at| on| to| towards)?|along)(?: the)? (?:{FACE})(?: face| side)?\b"),
    ("runs", r"along(?: the)? (?:length|width|height)\b"),
    ("from", rf"from (?:the )?(?={FACE}\b)"),
    ("face", rf"(?:(?:in|on|into) )?(?:the )?(?:{FACE})(?: face| side)?\b"),
    ("part", rf"(?:{_any(PARTS)})\b|drill(?= [\d.Ø])"),
    ("through", r"(?:thru|through)(?: all)?\b"),
    ("arranged", rf"(?:{_any(ARRANGED)})\b"),
    ("suffix", rf"(?:{_any(SUFFIXES)})\b"),
    ("at", r"at\b"),
    ("on", r"on(?: an?| the)?\b"),
    ("to", r"to (?=Ø|dia)"),
    ("in", r"in a (?:line|row)\b"),
    ("and", r"(?:and|with|its)\b"),
)
RULES = tuple((what, re.compile(pattern, re.IGNORECASE)) for what, pattern in PATTERNS)
GLUE = re.compile(
    r"(?:M|Tr|#)\s?[\d.]+(?:/\d+)?\s?$", re.IGNORECASE
)  # an x behind it may be that of a thread
HAND = re.compile(rf"(?:{_any(BY_HAND)})\b", re.IGNORECASE)


def tokens(line: str) -> list[Token]:
    """Return the pieces of a line, signs already written one way."""
    found: list[Token] = []
    start = at = 0

    def text(end: int) -> None:
        typed = line[start:end].strip()
        if typed:
            found.append(Token("text", typed, typed))

    while at < len(line):
        match = _known(line, at, start)
        if match is None:
            at += 1
            continue
        what, hit = match
        text(at)
        if hit.group().strip():
            found.append(Token(what, _means(what, hit.group()), hit.group().strip()))
        start = at = hit.end()
    text(len(line))
    return found


def _known(line: str, at: int, start: int) -> tuple[TokenKind, re.Match[str]] | None:
    before = line[at - 1] if at else " "
    for what, pattern in RULES:
        if what != "stop" and (before.isalpha() or (what != "x" and before.isdigit())):
            continue
        hit = pattern.match(line, at)
        if hit is None or (what == "x" and _is_pitch(line, start, at)):
            continue
        if (
            hit.group() == " "
            and line[start:at].strip().startswith("Ø")
            and line[at + 1 : at + 2] in {"R", "r"}
        ):
            continue  # Ø20 R7 is a fit
        if hit.group() in {"drill", " "} and bool(line[start:at].strip()) == (hit.group() == "drill"):
            continue  # #7 drill is a size
        return what, hit
    return None


def _is_pitch(line: str, start: int, at: int) -> bool:
    """Whether an x stands between a thread and its pitch: M10x1.25, Tr20x4."""
    return line[at - 1] != " " and bool(GLUE.search(line[start:at]))


def _means(what: TokenKind, typed: str) -> str:
    word = " ".join(typed.lower().split())
    tables: dict[str, dict[str, str]] = {
        "kind": KIND_OF, "suffix": SUFFIXES, "extent": EXTENTS, "part": PARTS, "arranged": ARRANGED,
    }  # fmt: skip
    if what in tables:
        return tables[what][word]
    if what == "runs":
        return word.split()[-1]
    if what in {"face", "opens"}:
        return next(face for face in FACE_WORDS if re.search(rf"\b{face}\b", word)).replace(
            "center", "centre"
        )
    return word
