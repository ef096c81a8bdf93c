"""The chain of setups, checked before the first cut.

Each check is a sentence with its reason and a way out. Faces are raw until a feature machines them; a feature is a
surface of its own once it is made.
"""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.feature import Centre, Feature
from ditto_run.core.hold.setup import Setup
from ditto_run.core.part.faces import BAR, FACES, Form

BESIDE = {"outline", "turned"}  # what goes round the piece, and may stay clear of the jaws
FEW = 4  # surfaces offered as a way out


@dataclass(frozen=True, slots=True)
class PieceInChain:
    """The piece between two setups.

    Args:
        machined: faces that are machined.
        made: names of features that are there, in lower case.
        gone: faces that were cut away.
        one_sided: True once it can no longer be turned round unnoticed.
        centres: ends that have a centre hole.
    """

    machined: frozenset[str] = frozenset()
    made: frozenset[str] = frozenset()
    gone: frozenset[str] = frozenset()
    one_sided: bool = False
    centres: frozenset[str] = frozenset()

    def after(self, feature: Feature) -> "PieceInChain":
        """Return the piece once a feature is made."""
        gone = self.gone | ({feature.face} if feature.kind == "cut off" else set())
        centres = self.centres | ({feature.face} if feature.kind == "centre hole" else set())
        return PieceInChain(
            (self.machined | feature.machines) - gone,
            self.made | {feature.name.lower()},
            gone,
            self.one_sided or feature.one_sided,
            centres - gone,
        )


@dataclass(frozen=True, slots=True)
class Chain:
    """What is checked.

    Args:
        form: block or turned.
        features: of the part.
        setups: in order.
        centres: whether each end wants, allows or forbids a centre hole.
        critical: keys of features that carry a critical size.
        as_it_comes: keys of features that need no cut: the blank has that size already.
        by_size: keys of setups of which sizes say what the clamps meet; names are asked in the others.
    """

    form: Form
    features: Sequence[Feature]
    setups: Sequence[Setup]
    centres: Mapping[str, Centre] = field(default_factory=dict)
    critical: frozenset[int] = frozenset()
    by_size: frozenset[int] = frozenset()
    as_it_comes: frozenset[int] = frozenset()

    def cut_in(self, setup: Setup) -> list[Feature]:
        """Return the features a setup makes, in its order."""
        by_key = {feature.key: feature for feature in self.features}
        return [by_key[key] for key in setup.cuts if key in by_key]


def as_supplied(chain: Chain) -> PieceInChain:
    """Return the piece as it comes: what is supplied is there."""
    piece = PieceInChain()
    for feature in chain.features:
        if feature.supplied:
            piece = piece.after(feature)
    return piece


def pieces_before(chain: Chain) -> Iterator[tuple[Setup, PieceInChain]]:
    """Return each setup with the piece as it comes into it."""
    piece = as_supplied(chain)
    for setup in chain.setups:
        yield setup, piece
        for feature in chain.cut_in(setup):
            piece = piece.after(feature)


def check_chain(chain: Chain) -> list[Finding]:
    """Return everything that is wrong with a chain of setups; nothing while no feature is described.

    Args:
        chain: form, features and setups.

    Source:
        Rules of the Hold step: locating surface made earlier, still there and machined if it must be; clamp and
        cut surfaces disjoint or a clamp relay; every feature once; features after the faces they refer to; centre
        holes; wrong-way-round proofing.
    """
    if not chain.features or not chain.setups:
        return []
    found = _coverage(chain)
    for number, (setup, piece) in enumerate(pieces_before(chain), 1):
        cut: frozenset[str] = frozenset().union(*(feature.touches for feature in chain.cut_in(setup)))
        found += _locating(chain, setup, piece, cut, first=number == 1)
        found += _clamping(chain, setup, piece, cut)
        found += _references(chain, setup, piece)
        found += _centres(chain, setup, piece)
        found += _turned_round(setup, piece, first=number == 1)
    return found


def _finding(weight: Weight, code: str, problem: str, remedy: str) -> Finding:
    return Finding("hold", weight, code, problem, remedy)


def _coverage(chain: Chain) -> list[Finding]:
    times = Counter(key for setup in chain.setups for key in setup.cuts)
    found = []
    for feature in chain.features:
        if feature.supplied and times[feature.key]:
            found.append(
                _finding(
                    "ask",
                    "supplied-made",
                    f"{feature.name} comes with the blank, and a setup makes it.",
                    "Take it out of the setup, or say it is not supplied.",
                )
            )
        elif not times[feature.key] and not feature.supplied and feature.key not in chain.as_it_comes:
            found.append(
                _finding(
                    "ask",
                    "feature-never",
                    f"No setup makes {feature.name}.",
                    "Add it to a setup, or waive it with a note.",
                )
            )
        elif times[feature.key] > 1:
            where = " and ".join(setup.name for setup in chain.setups if feature.key in setup.cuts)
            found.append(
                _finding(
                    "ask",
                    "feature-twice",
                    f"{feature.name} is made twice, in {where}.",
                    "Take it out of one of them, or waive it with a note.",
                )
            )
    return found


def _there(chain: Chain, piece: PieceInChain, surface: str) -> bool:
    name = surface.lower()
    return (surface in FACES[chain.form] and surface not in piece.gone) or name in piece.made


def _way_out(piece: PieceInChain, cut: frozenset[str]) -> str:
    """Return what the setup could register on, or what the one before could leave for it."""
    good = sorted((piece.machined | piece.made) - cut - piece.gone)
    if good:
        return f"Locate on {' or '.join(good[:FEW])}."
    return "Leave something on the part for it in the setup before: a machined face, two reamed holes, a tab cut off last."


def _locating(
    chain: Chain, setup: Setup, piece: PieceInChain, cut: frozenset[str], *, first: bool
) -> list[Finding]:
    if not setup.locates_on:
        return [
            _finding(
                "ask",
                "no-locating",
                f"Nothing says what {setup.name} locates on.",
                _way_out(piece, cut) if not first else "Choose the raw face it sits on.",
            )
        ]
    found = []
    for surface in setup.locates_on:
        if surface in piece.gone:
            found.append(
                _finding(
                    "stop",
                    "locating-gone",
                    f"{setup.name} locates on {surface}, which was cut away before.",
                    _way_out(piece, cut),
                )
            )
        elif not _there(chain, piece, surface):
            found.append(
                _finding(
                    "stop",
                    "locating-missing",
                    f"{setup.name} locates on {surface}, which is not made by then.",
                    _way_out(piece, cut),
                )
            )
        elif surface in cut or surface.lower() in cut:
            found.append(
                _finding(
                    "stop",
                    "locating-cut",
                    f"{setup.name} cuts {surface}, which it locates on.",
                    f"Make {surface} in another setup, or locate elsewhere. {_way_out(piece, cut)}",
                )
            )
        elif _is_supplied(chain, surface):
            found.append(
                _finding(
                    "note",
                    "locating-supplied",
                    f"{setup.name} locates on {surface} as it is supplied: its own spread goes into what is measured from it.",
                    "Allowed where position is free; else locate on what is machined.",
                )
            )
        elif not first and surface in FACES[chain.form] and surface not in piece.machined and surface != BAR:
            found.append(
                _finding(
                    "ask",
                    "locating-raw",
                    f"{setup.name} locates on {surface}, which is still raw.",
                    f"Machine it first. {_way_out(piece, cut)}",
                )
            )
    return found


def _is_supplied(chain: Chain, surface: str) -> bool:
    return any(f.supplied and f.name.lower() == surface.lower() for f in chain.features)


def _clamping(chain: Chain, setup: Setup, piece: PieceInChain, cut: frozenset[str]) -> list[Finding]:
    found = []
    for surface in setup.clamps_on:
        if not _there(chain, piece, surface):
            found.append(
                _finding(
                    "stop",
                    "clamp-missing",
                    f"{setup.name} clamps on {surface}, which is not there by then.",
                    "Clamp on a face that is there.",
                )
            )
        elif (surface in cut or surface.lower() in cut) and not setup.relay:
            found += _clamped_and_cut(chain, setup, surface)
    return found


def _clamped_and_cut(chain: Chain, setup: Setup, surface: str) -> list[Finding]:
    """What is cut where it is clamped: the face itself always; the sides or the outside beside the jaws only where sizes say so."""
    cutting = [f for f in chain.cut_in(setup) if surface in f.touches or surface.lower() in f.touches]
    beside = all(feature.kind in BESIDE for feature in cutting)
    if beside and setup.key in chain.by_size:
        return []
    if beside:
        return [
            _finding(
                "ask",
                "clamp-near-cut",
                f"{setup.name} clamps on {surface} and cuts {cutting[0].name}: nobody said how far it is gripped.",
                "Say the grip, or the jaws and parallels: then it is worked out whether they meet.",
            )
        ]
    return [
        _finding(
            "stop",
            "clamp-cut",
            f"{setup.name} cuts {surface}, which is clamped.",
            "Clamp elsewhere, or make it a clamp relay: straps outside, bolts through its own holes, straps off, then the cut.",
        )
    ]


def _references(chain: Chain, setup: Setup, piece: PieceInChain) -> list[Finding]:
    found, now = [], piece
    machined_ever = frozenset().union(*(feature.machines for feature in chain.features))
    for feature in chain.cut_in(setup):
        late = [
            face
            for face in feature.refers
            if face in machined_ever
            and face not in now.machined
            and face not in feature.machines
            and not _cut_from_it(chain, face, feature)
        ]
        if late:
            weight: Weight = "stop" if feature.key in chain.critical else "ask"
            found.append(
                _finding(
                    weight,
                    "reference-late",
                    f"{feature.name} in {setup.name} refers to {' and '.join(late)}, not machined by then.",
                    f"Machine {late[0]} before it, in the order of the setup or in an earlier one.",
                )
            )
        now = now.after(feature)
    return found


def _cut_from_it(chain: Chain, face: str, feature: Feature) -> bool:
    """Whether the setup that machines a face locates on the feature: the distance between them is then kept all the same."""
    return any(
        feature.name.lower() in {surface.lower() for surface in setup.locates_on}
        for setup in chain.setups
        if any(face in cut.machines for cut in chain.cut_in(setup))
    )


def _centres(chain: Chain, setup: Setup, piece: PieceInChain) -> list[Finding]:
    found = []
    for end in setup.centres:
        wish = chain.centres.get(end, "allowed")
        if wish == "forbidden":
            found.append(
                _finding(
                    "stop",
                    "centre-forbidden",
                    f"{setup.name} holds the {end} in a centre; the drawing forbids a centre hole there.",
                    "Support it with a steady, or leave stock that is cut away with the hole.",
                )
            )
        elif end not in piece.centres:
            found.append(
                _finding(
                    "stop",
                    "centre-missing",
                    f"{setup.name} holds the {end} in a centre, no centre hole is there by then.",
                    "Drill it in an earlier setup.",
                )
            )
    forbidden = [
        feature.face
        for feature in chain.cut_in(setup)
        if feature.kind == "centre hole" and chain.centres.get(feature.face, "allowed") == "forbidden"
    ]
    found += [
        _finding(
            "stop",
            "centre-drilled",
            f"{setup.name} drills a centre in the {end}, where the drawing forbids it.",
            "Leave it out, or ask.",
        )
        for end in forbidden
    ]
    return found


def centre_findings(chain: Chain) -> list[Finding]:
    """Return the ends that want a centre hole and get none, and those whose hole should be cut away and is not."""
    piece = as_supplied(chain)
    for setup in chain.setups:
        for feature in chain.cut_in(setup):
            piece = piece.after(feature)
    found = []
    for end, wish in chain.centres.items():
        if wish == "wanted" and end not in piece.centres and chain.features:
            found.append(
                _finding(
                    "ask",
                    "centre-wanted",
                    f"The {end} wants a centre hole and gets none.",
                    "Add it as a feature, or waive it.",
                )
            )
        if wish == "cut away" and end in piece.centres:
            found.append(
                _finding(
                    "ask",
                    "centre-left",
                    f"The centre hole of the {end} should be cut away and is still there at the end.",
                    "Cut off or face that end last.",
                )
            )
    return found


def _turned_round(setup: Setup, piece: PieceInChain, *, first: bool) -> list[Finding]:
    if first or not piece.one_sided or setup.proof:
        return []
    return [
        _finding(
            "ask",
            "wrong-way-round",
            f"{setup.name} can be loaded the wrong way round: the piece has a side by then.",
            "Say what proofs it: a pin, a corner, a flat, a mark that shows.",
        )
    ]


MADE, LOCATED, CLAMPED = "made", "located on", "clamped on"


def matrix(chain: Chain) -> list[tuple[str, list[tuple[str, ...]]]]:
    """Return for each face and feature what every setup does with it: made, located on, clamped on."""
    rows = []
    surfaces = [*FACES[chain.form], *(feature.name for feature in chain.features)]
    for surface in surfaces:
        cells = []
        for setup in chain.setups:
            cut: frozenset[str] = frozenset().union(*(feature.touches for feature in chain.cut_in(setup)))
            does = (
                MADE if surface in cut or surface.lower() in cut else "",
                LOCATED if surface in setup.locates_on else "",
                CLAMPED if surface in setup.clamps_on else "",
            )
            cells.append(tuple(word for word in does if word))
        rows.append((surface, cells))
    return rows


# As it sits, by the face that is up: the face in front and the face at the right
AS_IT_SITS = {
    "top": ("front", "right"),
    "bottom": ("front", "left"),
    "front": ("bottom", "right"),
    "back": ("top", "right"),
    "left": ("front", "top"),
    "right": ("front", "bottom"),
}
