"""The chain of setups: every seeded fault is found in generated chains, and none in sound ones."""

from dataclasses import replace
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.edits import (
    OverrideFinding,
    RemoveFeature,
    RemoveOverride,
    SetFeature,
    SetForm,
    SetSetup,
    apply_edit,
)
from ditto_run.core.errors import BadEntry
from ditto_run.core.hold import Chain, Feature, Setup, centre_findings, check_chain, matrix
from ditto_run.core.part.faces import OPPOSITE, SIDES
from ditto_run.core.plan import plan_findings
from tests.conftest import SHOP, planned

BLOCK = (
    Feature(1, "top face", "top"),
    Feature(2, "slot", "top", "slot", ("top",), one_sided=True),
    Feature(3, "bore", "top", "hole", ("top",)),
    Feature(4, "bottom face", "bottom"),
    Feature(5, "edges", "bottom", "chamfer"),
)
FIRST = Setup(1, "first", locates_on=("bottom", "back"), clamps_on=("front", "back"), cuts=(1, 2, 3))
SECOND = Setup(2, "second", locates_on=("top", "bore"), clamps_on=("front", "back"), cuts=(4, 5), proof="pin")
SOUND = Chain("block", BLOCK, (FIRST, SECOND), critical=frozenset({3}))


def codes(chain: Chain) -> list[str]:
    return [finding.code for finding in check_chain(chain)]


def setups(first=FIRST, second=SECOND) -> Chain:
    return replace(SOUND, setups=(first, second))


def test_a_sound_chain_raises_nothing() -> None:
    assert codes(SOUND) == []
    assert codes(replace(SOUND, features=())) == []


@pytest.mark.parametrize(
    ("chain", "code", "weight"),
    [
        (setups(replace(FIRST, locates_on=())), "no-locating", "ask"),
        (setups(replace(FIRST, locates_on=("bore",))), "locating-missing", "stop"),
        (setups(replace(FIRST, locates_on=("top",))), "locating-cut", "stop"),
        (setups(second=replace(SECOND, locates_on=("back",))), "locating-raw", "ask"),
        (setups(second=replace(SECOND, locates_on=("bottom",))), "locating-cut", "stop"),
        (setups(second=replace(SECOND, clamps_on=("pocket",))), "clamp-missing", "stop"),
        (setups(replace(FIRST, clamps_on=("top",))), "clamp-cut", "stop"),
        (setups(replace(FIRST, cuts=(1, 2))), "feature-never", "ask"),
        (setups(second=replace(SECOND, cuts=(4, 5, 2))), "feature-twice", "ask"),
        (setups(replace(FIRST, cuts=(3, 1, 2))), "reference-late", "stop"),
        (setups(replace(FIRST, cuts=(2, 1, 3))), "reference-late", "ask"),
        (setups(second=replace(SECOND, proof="")), "wrong-way-round", "ask"),
        (setups(second=replace(SECOND, centres=("left",))), "centre-missing", "stop"),
    ],
)
def test_each_fault_is_found_with_a_way_out(chain: Chain, code: str, weight: str) -> None:
    found = [finding for finding in check_chain(chain) if finding.code == code]
    assert found
    assert found[0].weight == weight
    assert found[0].remedy


def test_a_relay_may_cut_what_was_clamped() -> None:
    clamped = replace(FIRST, clamps_on=("top",))
    assert "clamp-cut" not in codes(setups(replace(clamped, relay=True)))


def test_the_way_out_names_what_the_setup_could_sit_on() -> None:
    found = next(
        f
        for f in check_chain(setups(second=replace(SECOND, locates_on=("back",))))
        if f.code == "locating-raw"
    )
    assert "bore" in found.remedy
    bare = Chain("block", BLOCK, (replace(FIRST, cuts=()), replace(SECOND, locates_on=("bore",))))
    missing = next(f for f in check_chain(bare) if f.code == "locating-missing")
    assert "Leave something on the part" in missing.remedy


def sound_chain(chance: Random) -> Chain:
    """Build a chain that is sound by construction: each setup sits on a face an earlier one machined, and cuts its opposite."""
    faces = chance.sample([("top", "bottom"), ("front", "back"), ("left", "right")], k=chance.randint(1, 3))
    features, chained, key, seat = [], [], 0, ""
    for number, pair in enumerate(faces):
        for face in pair:
            key += 1
            features.append(Feature(key, f"{face} face", face))
            cuts = [key]
            for hole in range(chance.randint(0, 2)):
                key += 1
                features.append(
                    Feature(
                        key, f"{face} hole {hole}", face, "hole", (face,), one_sided=chance.random() < 0.5
                    )
                )
                cuts.append(key)
            sit = OPPOSITE[face] if not chained or face == pair[1] else seat
            clamp = next(side for side in (*SIDES, "top", "bottom") if side not in {face, sit})
            proof = "pin" if chained else ""
            chained.append(
                Setup(
                    1000 + key,
                    f"setup {number} {face}",
                    locates_on=(sit,),
                    clamps_on=(clamp,),
                    cuts=tuple(cuts),
                    proof=proof,
                )
            )
            seat = face
    return Chain("block", tuple(features), tuple(chained))


FAULTS = {
    "feature-never": lambda c, i: replace(c[i], cuts=c[i].cuts[1:]),
    "feature-twice": lambda c, i: replace(c[i], cuts=(*c[i].cuts, c[i - 1].cuts[0])),
    "locating-cut": lambda c, i: replace(c[i], locates_on=("@cut",)),
    "clamp-cut": lambda c, i: replace(c[i], clamps_on=("@cut",)),
    "locating-missing": lambda c, i: replace(c[i], locates_on=("ghost",)),
    "clamp-missing": lambda c, i: replace(c[i], clamps_on=("ghost",)),
    "no-locating": lambda c, i: replace(c[i], locates_on=()),
}


@given(st.integers(0, 100_000))
def test_generated_sound_chains_raise_nothing(seed: int) -> None:
    assert codes(sound_chain(Random(seed))) == []


@pytest.mark.parametrize("code", FAULTS)
@given(seed=st.integers(0, 100_000))
def test_a_fault_sown_into_a_sound_chain_is_found(code: str, seed: int) -> None:
    chance = Random(seed)
    chain = sound_chain(chance)
    listed = list(chain.setups)
    place = chance.randrange(len(listed))
    face = next(f.face for f in chain.features if f.key == listed[place].cuts[0])
    spoilt = FAULTS[code](listed, place)
    at = {"@cut": face}
    spoilt = replace(
        spoilt,
        locates_on=tuple(at.get(s, s) for s in spoilt.locates_on),
        clamps_on=tuple(at.get(s, s) for s in spoilt.clamps_on),
    )
    listed[place] = spoilt
    assert code in codes(replace(chain, setups=tuple(listed)))


@given(st.integers(0, 100_000))
def test_a_setup_moved_before_the_one_it_sits_on_is_found(seed: int) -> None:
    chain = sound_chain(Random(seed))
    if len(chain.setups) > 2:
        moved = (chain.setups[-1], *chain.setups[:-1])
        assert codes(replace(chain, setups=moved))


PIN = (
    Feature(1, "end", "free end"),
    Feature(2, "shank", "outside", "turned", ("free end",)),
    Feature(3, "part off", "bar", "cut off"),
    Feature(4, "centre", "free end", "centre hole"),
)


def test_a_pin_from_bar_and_its_centre_holes() -> None:
    one = Setup(1, "complete", locates_on=("bar",), clamps_on=("bar",), cuts=(1, 4, 2, 3))
    pin = Chain("turned", PIN, (one,))
    assert codes(pin) == []
    held = replace(pin, setups=(one, Setup(2, "back", locates_on=("bar",), clamps_on=("outside",), cuts=())))
    assert "locating-gone" in codes(held)
    assert "centre-drilled" in codes(replace(pin, centres={"free end": "forbidden"}))
    early = replace(one, centres=("free end",))
    assert "centre-missing" in codes(replace(pin, setups=(early,)))
    assert [
        f.code for f in centre_findings(replace(pin, centres={"free end": "cut away", "chuck end": "wanted"}))
    ] == ["centre-left", "centre-wanted"]
    assert centre_findings(replace(pin, centres={"free end": "wanted"})) == []


def test_the_matrix_says_what_each_setup_does() -> None:
    rows = dict(matrix(SOUND))
    assert rows["top"] == [("made",), ("located on",)]
    assert rows["back"] == [("located on", "clamped on"), ("clamped on",)]
    assert rows["bore"] == [("made",), ("located on",)]


def featured():
    plan = planned(12)
    for edit in (
        SetFeature("top face", "top"),
        SetFeature("bore", "top", "hole", ("top",), characteristic=1),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def test_features_are_described_and_a_finding_overridden_with_a_note() -> None:
    plan = featured()
    keys = tuple(f.key for f in plan.features)
    setup = plan.setups[0]
    edit = SetSetup(
        setup.name, 1, "vises", key=setup.key, locates_on=("bottom",), clamps_on=("front", "top"), cuts=keys
    )
    plan = apply_edit(edit, plan, SHOP).plan
    wrong = [f for f in plan_findings(plan, SHOP.machines) if f.step == "hold"]
    assert [f.code for f in wrong] == ["clamp-cut"]
    with pytest.raises(BadEntry) as caught:
        apply_edit(OverrideFinding(wrong[0].problem), plan, SHOP)
    assert caught.value.field == "note"
    over = apply_edit(OverrideFinding(wrong[0].problem, "Only a corner is cut.", "rk"), plan, SHOP).plan
    assert [f for f in plan_findings(over, SHOP.machines) if f.step == "hold"] == []
    assert over.overrides[0].who == "RK"
    back = apply_edit(RemoveOverride(wrong[0].problem), over, SHOP).plan
    assert back.overrides == ()
    gone = apply_edit(RemoveFeature(keys[1]), over, SHOP).plan
    assert gone.setups[0].cuts == (keys[0],)


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        (SetFeature(""), "name"),
        (SetFeature("bore"), "name"),
        (SetFeature("top"), "name"),
        (SetFeature("x", "lid"), "face"),
        (SetFeature("x", "top", "hole", ("lid",)), "face"),
        (SetForm("turned"), "part_form"),
        (SetSetup("x", locates_on=("lid",)), "locates_on"),
    ],
)
def test_refusals_name_their_field(edit, field: str) -> None:
    with pytest.raises(BadEntry) as caught:
        apply_edit(edit, featured(), SHOP)
    assert caught.value.field == field


def test_references_in_a_circle_are_refused() -> None:
    plan = apply_edit(SetFeature("top face", "top", "face", ("bottom",)), planned(4), SHOP).plan
    with pytest.raises(BadEntry, match="run in a circle") as caught:
        apply_edit(SetFeature("bottom face", "bottom", "face", ("top",)), plan, SHOP)
    assert caught.value.field == "refers"


def test_a_face_cut_later_from_the_feature_that_was_measured_from_it_is_no_late_reference() -> None:
    """The bore stands 16 from left, and left is cut when the piece sits on the bore: the 16 are kept."""
    bore, outline = Feature(1, "bore", "top", "hole", ("left",)), Feature(2, "outside", "top", "outline")
    first = Setup(1, "first", locates_on=("bottom",), cuts=(1,))
    for locates, late in ((("top", "bore"), False), (("top",), True)):
        chain = Chain("block", (bore, outline), (first, Setup(2, "second", locates_on=locates, cuts=(2,))))
        assert ("reference-late" in [f.code for f in check_chain(chain)]) is late


def test_what_goes_round_a_piece_beside_the_jaws_is_asked_about_until_sizes_say() -> None:
    outline = Feature(1, "outside", "top", "outline")
    held = Setup(1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=(1,))
    chain = Chain("block", (outline,), (held,))
    assert [f.code for f in check_chain(chain)] == ["clamp-near-cut", "clamp-near-cut"]
    assert check_chain(replace(chain, by_size=frozenset({1}))) == []


def test_the_bar_is_never_raw() -> None:
    features = (Feature(1, "end", "free end"), Feature(2, "off", "bar", "cut off"))
    setups = (
        Setup(1, "one", locates_on=("bar",), clamps_on=("bar",), cuts=(1,)),
        Setup(2, "two", locates_on=("bar",), clamps_on=("bar",), cuts=(2,)),
    )
    assert check_chain(Chain("turned", features, setups)) == []


def test_what_is_supplied_is_there_from_the_start() -> None:
    hole = Feature(1, "cut-out", "top", "hole", supplied=True)
    bore = Feature(2, "bore", "top", "hole")
    setup = Setup(1, "one", locates_on=("bottom", "cut-out"), clamps_on=("top",), cuts=(2,))
    found = check_chain(Chain("block", (hole, bore), (setup,)))
    assert [(f.code, f.weight) for f in found] == [("locating-supplied", "note")]
    made = check_chain(Chain("block", (hole, bore), (replace(setup, cuts=(1, 2), locates_on=("bottom",)),)))
    assert "supplied-made" in [f.code for f in made]
