"""Reads a feature as a machinist says it, in one line: `4x M6 x 12 deep, top`. What is not said is asked, not guessed."""

import re
from dataclasses import replace
from functools import lru_cache

from ditto_run.core.entry.signs import normalised
from ditto_run.core.errors import BadEntry, DittoError, standing_at
from ditto_run.core.part.faces import FACES, Form
from ditto_run.core.part.features.corners import LONGEST_POINTS, take_corners
from ditto_run.core.part.features.described import Arranged, At, Described, Extent, ReadPiece, Run
from ditto_run.core.part.features.kinds import KINDS, WHOLE, Role
from ditto_run.core.part.features.lexer import HAND, Token, tokens
from ditto_run.core.sizes import Size, read_size, understood
from ditto_run.core.sizes.geometry import SAID, geometry_of
from ditto_run.core.units import LengthUnit

LONGEST = 200
COUNT = re.compile(
    r"(\d{1,3}) ?(?:x ?(?=[MØ#]|Tr|G ?\d|\d+/\d+-|[A-Za-z]{3})|(?=[A-Za-z]{4})|off |,? ?(?=on an? )|x (?=[\d.]))",
    re.IGNORECASE,
)
GEOMETRY = re.compile(rf"\b(?:{'|'.join(SAID)})\b.*\d|\d.*\b(?:{'|'.join(SAID)})\b", re.IGNORECASE)
CALLED = re.compile(r"\s*([A-Za-z][\w .'/-]{0,39}?)\s*:(?!\d)\s*")
BARE = re.compile(r"\d{1,3}(?:\.\d+)?")
MOST_ALIKE = 200
PART_ROLES = (Role.DIAMETER, Role.DEPTH)
UNKNOWN = re.compile(r"“([^“”]+)” is no word we know")
EXAMPLES: dict[Form, str] = {
    "block": "Say it as in 4x M6 x 12 deep, top or slot 20 ±0.03 x 12 deep, full length, top.",
    "turned": "Say it as in shoulder Ø10 0/-0.04 x 30 long, free end or groove 3 wide to Ø9 at 20.",
}


def read_feature(text: str, form: Form, unit: LengthUnit) -> Described:
    """Return the feature that a line describes.

    Args:
        text: the line, in shop language.
        form: block or turned; it decides which faces and kinds there are.
        unit: of figures typed without one. [mm or inch]

    Returns:
        The feature with how each piece was read; `open` says what was not said.

    Raises:
        BadEntry: if a word or size cannot be read; it says which.
        NeedsAnswer: if a size can be read in two ways.
    """
    longest = LONGEST_POINTS if "points" in text.lower() else LONGEST
    if len(text) > longest:
        raise BadEntry(
            f"The line is {len(text):,} signs long; {longest:,} are the most.",
            "Say one feature a line.",
            "text",
        )
    named = None if HAND.match(text.strip()) else CALLED.match(text)
    rest, corners, typed = take_corners(text[named.end() :] if named else text, form, unit)
    with standing_at("text"):
        line = normalised(rest)
    called = named[1].strip() if named else ""
    if HAND.match(line):
        said = ReadPiece(line, "done by hand, as said", "words")
        return Described("by hand", words=line, called=called, pieces=(said,))
    reader = _Line(line, form, unit)
    if named:
        reader.found = replace(reader.found, called=called)
        reader.pieces.append(ReadPiece(named[0].strip(), called, "called"))
    if corners is not None:
        reader.found = replace(reader.found, corners=corners)
        reader.pieces.append(ReadPiece(typed, f"{len(corners.spots)} points", "shape"))
    return reader.read()


@lru_cache(maxsize=4096)
def known_feature(line: str, form: Form, unit: LengthUnit) -> Described | None:
    """Return the feature of a line that is kept with a job; None where it cannot be read, as one that came in from elsewhere."""
    try:
        return read_feature(line, form, unit)
    except DittoError:
        return None


class _Line:
    """One line while it is read."""

    def __init__(self, line: str, form: Form, unit: LengthUnit) -> None:
        self.form, self.unit = form, unit
        self.found = Described("")
        self.sizes: dict[Role, Size] = {}
        self.bare: list[tuple[Size, int]] = []  # sizes that nothing says the role of, and the piece they are
        self.parts: dict[str, dict[Role, Size]] = {}
        self.part = ""
        self.pieces: list[ReadPiece] = []
        if match := COUNT.match(line):
            count = int(match[1])
            if count < 1:
                raise BadEntry(
                    "None of it is no feature.", "Type how many there are, or leave it out for one.", "text"
                )
            if count > MOST_ALIKE:
                raise BadEntry(
                    f"{count} alike are more than {MOST_ALIKE}.", "Say them in several lines.", "text"
                )
            self.found = replace(self.found, count=count)
            self.pieces.append(ReadPiece(match[0].strip(), f"{count} alike", "how many"))
            line = line[match.end() :].strip()
        self.tokens = tokens(line)
        self.at = 0

    def read(self) -> Described:
        """Return what the line says."""
        while self.at < len(self.tokens):
            token = self.tokens[self.at]
            self.at += 1
            getattr(self, f"_{token.what}")(token)
        self._named()
        self._given()
        found = replace(self.found, sizes=self.sizes, parts=self.parts, pieces=tuple(self.pieces))
        return _sensible(found)

    def _next(self, *kinds: str) -> Token | None:
        """The next token, if it is one of these."""
        if self.at < len(self.tokens) and self.tokens[self.at].what in kinds:
            self.at += 1
            return self.tokens[self.at - 1]
        return None

    def _size(self, token: Token) -> Size:
        try:
            found = read_size(token.means, self.unit)
        except DittoError as refusal:
            word = UNKNOWN.search(refusal.problem)
            if word or not re.search(r"\d", token.means):
                typed = word[1] if word else token.typed[:40]
                raise BadEntry(f"“{typed}” is no word we know here.", EXAMPLES[self.form], "text") from None
            refusal.field = "text"
            raise
        if "×" in found.note:
            raise BadEntry(
                f"“{token.typed[:40]}” says how many in the middle.", "Say it first, as in 4x M6.", "text"
            )
        return found

    def _say(self, typed: str, read: str, word: str) -> None:
        self.pieces.append(ReadPiece(typed, read, word))

    # what a token does

    def _stop(self, _token: Token) -> None:
        self.part = ""

    def _x(self, _token: Token) -> None:
        """Between two sizes."""

    _and = _x

    def _in(self, token: Token) -> None:
        self._say(token.typed, "in a line", "arranged")

    def _kind(self, token: Token) -> None:
        if token.means in WHOLE.values():
            token = Token("kind", WHOLE[self.form], token.typed)
        if token.means == "step" and self.form == "turned":
            token = Token("kind", "shoulder", token.typed)
        if self.found.kind and self.found.kind != token.means:
            if self.found.kind == "tapped hole" and token.means == "hole":
                return
            raise BadEntry(
                f"The line says {self.found.kind} and {token.means}.", "Say one feature a line.", "text"
            )
        if self.form not in KINDS[token.means].forms:
            raise BadEntry(
                f"A {self.form} part has no {token.means}.", "Name what it is on this part.", "text"
            )
        self.found = replace(self.found, kind=token.means)
        self._say(token.typed, token.means, "what")

    def _part(self, token: Token) -> None:
        alone = self.found.kind in {"", "hole"} and Role.THREAD not in self.sizes
        if alone and token.means == "drill" and not self.parts:
            self._kind(Token("kind", "hole", token.typed))
            return
        if token.means in self.parts:
            raise BadEntry(f"The line says {token.means} twice.", "Say one of them.", "text")
        self.part = token.means
        self.parts[token.means] = {}
        self._say(token.typed, token.means, "with")

    def _through(self, token: Token) -> None:
        self.found = replace(self.found, through=True)
        self._say(token.typed, "all the way through", "depth")

    def _extent(self, token: Token) -> None:
        extent: Extent = token.means  # type: ignore[assignment]
        if self.found.extent:
            raise BadEntry(f"The line says {self.found.extent} and {extent}.", "Say one of them.", "text")
        self.found = replace(self.found, extent=extent)
        self._say(token.typed, extent, "how far")

    def _supplied(self, token: Token) -> None:
        self.found = replace(self.found, supplied=True)
        self._say(token.typed, "there when it comes", "supplied")

    def _opens(self, token: Token) -> None:
        if token.means not in FACES[self.form]:
            self._on_face(token, token.means)  # says which faces there are
        if self.found.open_at:
            raise BadEntry("The line says twice where it is open.", "Say it once.", "text")
        self.found = replace(self.found, open_at=token.means)
        self._say(token.typed, f"open at the {token.means}", "where")

    def _runs(self, token: Token) -> None:
        if self.found.run:
            raise BadEntry("The line says twice which way it lies.", "Say it once.", "text")
        run: Run = token.means  # type: ignore[assignment]
        self.found = replace(self.found, run=run)
        self._say(token.typed, f"along the {token.means}", "which way")

    def _middle(self, token: Token) -> None:
        self.found = replace(self.found, places=(*self.found.places, At(None)))
        self._say(token.typed, "in the middle", "where")

    def _face(self, token: Token) -> None:
        if token.means == "centre":
            self._middle(token)
            return
        self._on_face(token, token.means)

    def _on_face(self, token: Token, face: str) -> None:
        if face not in FACES[self.form]:
            raise BadEntry(
                f"A {self.form} part has no face “{face}”.",
                f"Its faces are {', '.join(FACES[self.form])}.",
                "text",
            )
        if self.found.face and self.found.face != face:
            raise BadEntry(f"The line says {self.found.face} and {face}.", "Say one face.", "text")
        self.found = replace(self.found, face=face)
        self._say(token.typed, face, "face")

    def _from(self, token: Token) -> None:
        """Cut from a face; a distance from one is read with its figure."""
        if (face := self._next("face")) is not None:
            self._on_face(Token("face", face.means, f"{token.typed} {face.typed}"), face.means)

    def _at(self, token: Token) -> None:
        if (text := self._next("text")) is None:
            raise BadEntry(f"After “{token.typed}” a distance is missing.", EXAMPLES[self.form], "text")
        size = self._size(text)
        if size.kind == "angle":
            self._turned(size, f"{token.typed} {text.typed}")
            return
        self._place(text, f"{token.typed} ")

    def _turned(self, size: Size, typed: str) -> None:
        """How far round the axis of a turned part."""
        if self.form != "turned":
            raise BadEntry(
                f"“{typed}” is an angle, and a block does not go round.",
                "Say how far from which face.",
                "text",
            )
        if self.found.turn is not None:
            raise BadEntry("The line says twice how far round it stands.", "Say it once.", "text")
        self.found = replace(self.found, turn=replace(size, note=""))
        self._say(typed, f"{_plain(size)} round from the top", "where")

    def _place(self, text: Token, before: str = "") -> None:
        distance, face = self._size(text), ""
        typed = before + text.typed
        if (from_ := self._next("from")) is not None and (where := self._next("face")) is not None:
            face, typed = where.means, f"{typed} {from_.typed} {where.typed}"
            if face != "centre" and face not in FACES[self.form]:
                raise BadEntry(
                    f"A {self.form} part has no face “{face}”.",
                    f"Its faces are {', '.join(FACES[self.form])}.",
                    "text",
                )
        if any(at.face == face for at in self.found.places):
            raise BadEntry(f"The line says twice how far from {face or 'the start'}.", "Say it once.", "text")
        self.found = replace(self.found, places=(*self.found.places, At(distance, face)))
        self._say(
            typed,
            f"{_plain(distance)} from {'the ' + face if face else 'where the part is counted from'}",
            "where",
        )

    def _on(self, token: Token) -> None:
        """On 40 centres, on a 50 circle, on 40 x 30 centres; on a face is read as the face."""
        by: list[Size] = []
        typed = token.typed
        while (text := self._next("text")) is not None:
            by.append(self._size(text))
            typed += f" {text.typed}"
            if (times := self._next("x")) is not None:
                typed += f" {times.typed}"
        arranged = self._next("arranged")
        if not by or arranged is None:
            raise BadEntry(
                f"“{typed}” does not say on what.",
                "Say on 40 centres, on a 50 circle, or on 40 x 30 centres.",
                "text",
            )
        self._arrange(by, arranged, f"{typed} {arranged.typed}")

    def _arrange(self, by: list[Size], arranged: Token, typed: str) -> None:
        two = len(by) == 2  # noqa: PLR2004 - a grid
        if len(by) > 2 or (two and arranged.means == "circle") or (not two and arranged.means == "grid"):  # noqa: PLR2004
            raise BadEntry(
                f"“{typed}” is no pattern.", "A circle and a line have one figure, a grid two.", "text"
            )
        if self.found.pattern is not None:
            raise BadEntry("The line says twice how they stand to each other.", "Say it once.", "text")
        pattern = Arranged("grid" if two else arranged.means, tuple(by))  # type: ignore[arg-type]
        self.found = replace(self.found, pattern=pattern)
        said = " x ".join(_plain(size) for size in by)
        self._say(
            typed,
            {
                "line": f"{said} apart, in a line",
                "grid": f"{said} apart, in a grid",
                "circle": f"on a circle of {said}",
            }[pattern.arrangement],
            "arranged",
        )

    def _arranged(self, token: Token) -> None:
        raise BadEntry(
            f"Before “{token.typed}” a figure is missing.", "Say on 40 centres, or on a 50 circle.", "text"
        )

    def _suffix(self, token: Token) -> None:
        """A word that comes before its figure: radius 4."""
        if (text := self._next("text")) is None:
            raise BadEntry(f"Before “{token.typed}” a figure is missing.", EXAMPLES[self.form], "text")
        self._set(Role(token.means), self._size(text), f"{token.typed} {text.typed}")

    def _to(self, token: Token) -> None:
        if (text := self._next("text")) is None:
            raise BadEntry(f"After “{token.typed}” a diameter is missing.", EXAMPLES[self.form], "text")
        self._set(Role.BOTTOM, self._size(text), f"{token.typed} {text.typed}")

    def _text(self, token: Token) -> None:
        if GEOMETRY.search(token.means) and (said := self._geometry(token)) is not None:
            self.found = replace(self.found, geometry=(*self.found.geometry, said))
            self._say(token.typed, understood(said), "form and position")
            return
        following = self.tokens[self.at] if self.at < len(self.tokens) else None
        if following is not None and following.what == "from" and self.tokens[self.at + 1 : self.at + 2]:
            self._place(token)
            return
        if following is not None and following.what == "arranged":
            self.at += 1
            self._arrange([self._size(token)], following, f"{token.typed} {following.typed}")
            return
        size = self._size(token)
        angle = size.kind == "angle"  # 90° radius 4: the word belongs to the figure after it
        if not angle and (suffix := self._next("suffix")) is not None:
            self._set(Role(suffix.means), size, f"{token.typed} {suffix.typed}")
            return
        role = _plainly(size)
        if role is not None and not self.part:
            self._set(role, size, token.typed)
            return
        if self.part:
            free = [r for r in PART_ROLES if r not in self.parts[self.part]]
            self._set(
                Role.ANGLE if size.kind == "angle" else free[0] if free else Role.DEPTH, size, token.typed
            )
            return
        self.bare.append((size, len(self.pieces)))
        self._say(token.typed, "", "")

    def _geometry(self, token: Token) -> Size | None:
        try:
            return geometry_of(token.means, self.unit)
        except DittoError:
            return None

    def _set(self, role: Role, size: Size, typed: str) -> None:
        sizes = self.parts[self.part] if self.part else self.sizes
        if role in sizes:
            raise BadEntry(f"The line says the {role} twice.", "Say it once.", "text")
        sizes[role] = _as(size, role)
        self._say(typed, _read(sizes[role]), f"{self.part} {role}".strip())

    # what follows from all of it

    def _named(self) -> None:
        """The kind where no word says it: a thread with a depth is tapped, a diameter in a block is a hole, one with a length is turned."""
        if self.found.kind:
            return
        kind = ""
        if Role.THREAD in self.sizes:
            outside = self.form == "turned" and Role.LENGTH in self.sizes and not self.found.through
            inside = self.form == "block" or self.found.through or Role.DEPTH in self.sizes
            kind = "outside thread" if outside else "tapped hole" if inside else ""
        elif self.form == "block" and (Role.DIAMETER in self.sizes or self.parts):
            kind = "hole"
        elif (
            self.form == "turned"
            and {Role.DIAMETER, Role.LENGTH} <= self.sizes.keys()
            and not self.found.through
        ):
            kind = "shoulder"
        self.found = replace(self.found, kind=kind)

    def _given(self) -> None:
        """Give the sizes that nothing names to what is still free, in the order in which they are said."""
        order = KINDS[self.found.kind].order if self.found.kind else ()
        if self.found.kind == "outline" and (self.found.corners or Role.DIAMETER in self.sizes):
            order = (Role.HEIGHT,)  # its shape is said: what is left is how high it is
        for bare, piece in self.bare:
            size = bare
            free = [
                role
                for role in order
                if role not in self.sizes
                and (role in {Role.ANGLE, Role.THREAD}) == (size.kind in {"angle", "thread"})
                and not (role is Role.DEPTH and self.found.through)
            ]
            typed = self.pieces[piece].typed
            if _may_be_degrees(size, order, self.sizes, free):
                size, free = read_size(f"{typed}°", self.unit), [Role.ANGLE]
            if not free:
                if not self.found.kind:
                    self.pieces[piece] = ReadPiece(typed, _read(size), "of what")
                    continue
                raise BadEntry(
                    f"A {self.found.kind} has no place for “{typed}”.",
                    "Say what it is, as in 12 deep.",
                    "text",
                )
            self.sizes[free[0]] = _as(size, free[0])
            self.pieces[piece] = ReadPiece(typed, _read(self.sizes[free[0]]), str(free[0]))


def _may_be_degrees(size: Size, order: tuple[Role, ...], sizes: dict[Role, Size], free: list[Role]) -> bool:
    """Whether a bare figure is an angle: 1 x 45 of a chamfer, 90 x 3 of a bend."""
    return (
        size.kind == "length"
        and not size.has_limits
        and Role.ANGLE in order
        and Role.ANGLE not in sizes
        and (not free or order[0] is Role.ANGLE)
        and bool(BARE.fullmatch(size.text))
    )


def _plain(size: Size) -> str:
    return understood(size).removesuffix(", no limits").removeprefix("diameter ")


def _read(size: Size) -> str:
    return f"thread {size.name}" if size.kind == "thread" else understood(size).removesuffix(", no limits")


def _plainly(size: Size) -> Role | None:
    """What a size is by how it is written."""
    if size.kind == "thread":
        return Role.THREAD
    return {"diameter": Role.DIAMETER, "drill": Role.DIAMETER, "radius": Role.RADIUS}.get(size.kind)


def _as(size: Size, role: Role) -> Size:
    """The same size without what stood beside it, a diameter or a radius where its role makes it one."""
    size = replace(size, note="")
    if size.kind == "length" and role in {Role.DIAMETER, Role.BOTTOM}:
        return replace(size, kind="diameter")
    if size.kind == "length" and role is Role.RADIUS:
        return replace(size, kind="radius")
    return size


def _sensible(found: Described) -> Described:
    """Refuse what contradicts itself."""
    if found.through and Role.DEPTH in found.sizes:
        raise BadEntry("It goes through and has a depth.", "Say one of them.", "text")
    for role, size in found.sizes.items():
        if size.kind not in {"angle", "thread"} and size.nominal <= 0:
            raise BadEntry(f"A {role} of {size.nominal} is none.", "Type what is left or taken away.", "text")
    if found.pattern is not None and found.count == 1:
        raise BadEntry("One alone stands in no pattern.", "Type how many there are first, as in 4x.", "text")
    across, bottom = found.sizes.get(Role.DIAMETER), found.sizes.get(Role.BOTTOM)
    if across and bottom and bottom.nominal_base >= across.nominal_base:
        raise BadEntry("It is not smaller at the bottom than outside.", "Check the two diameters.", "text")
    return found
