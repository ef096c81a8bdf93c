"""Whatever is done to a layout, it stays sound: any sequence of changes keeps stations and holders together."""

from decimal import Decimal as D

from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.edits import (
    ChangePlaced,
    CopyPlaced,
    LineUp,
    MovePlaced,
    PlaceHolder,
    RemovePlaced,
    RemoveStation,
    SetLayout,
    apply_edit,
)
from ditto_run.core.errors import DittoError
from ditto_run.core.place import clashes, expected_mm
from ditto_run.core.place.offsets import Offset, OffsetChange, change_words, changed, read_axis
from ditto_run.core.plan import Plan, plan_findings
from ditto_run.core.plan.held import standings
from ditto_run.formats.documents import PLAN
from tests.core.place.layouts import BED, MILL, SHOP, laid_out
from tests.searches import searches

MM = st.sampled_from(["0", "37.5 mm", "120", "4 in", "-30", "700", "", "x", "1e9"])
TURN = st.sampled_from(["0", "90", "-90", "33.3", "400", ""])
KEY = st.integers(1, 14)
EDITS = st.one_of(
    st.builds(
        PlaceHolder,
        st.just(1),
        st.sampled_from(["Vise", "Pallet", "Bare"]),
        MM,
        MM,
        TURN,
        st.sampled_from(["1", "2", "0"]),
        MM,
    ),
    st.builds(MovePlaced, KEY, MM, MM, TURN, st.booleans()),
    st.builds(ChangePlaced, KEY, st.sampled_from(["turn", "mirror", "handle", "stays"])),
    st.builds(CopyPlaced, KEY, st.sampled_from(["1", "2", "99"]), MM),
    st.builds(RemovePlaced, KEY),
    st.builds(RemoveStation, st.just(1), st.sampled_from(["A", "B", "P1"])),
    st.builds(
        LineUp, st.just(1), st.sampled_from(["left", "right", "front", "back", "spread x", "spread y"])
    ),
    st.builds(
        SetLayout,
        st.just(1),
        MM,
        MM,
        MM,
        st.sampled_from(["1", "3"]),
        st.sampled_from(["centred", "packed"]),
        MM,
        MM,
        MM,
        MM,
        MM,
    ),
)


def sound(plan: Plan) -> None:
    """Check what must hold of every layout."""
    keys = {placed.key for placed in plan.placed}
    labels = [station.label for station in plan.stations]
    zeros = [station.zero_key for station in plan.stations if station.zero_key is not None]
    assert len(set(labels)) == len(labels)
    assert len(set(zeros)) == len(zeros)
    assert max(keys, default=0) < plan.next_number
    for station in plan.stations:
        assert station.placed in keys
        body = plan.holder(station.placed).body
        if body.nests and station.offset:
            assert station.shift[:2] == plan.holder(station.placed).shift_mm(station.nest)
    by_offset: dict[str, set[tuple[D, ...]]] = {}
    for standing in standings(plan, 1, BED):
        for seat in standing.seats:
            if seat.station.offset:
                by_offset.setdefault(f"{seat.station.offset} {standing.placed.key}", set()).add(
                    expected_mm(seat, BED)[:2]
                )
    for places in (
        by_offset.values()
    ):  # every nest of a pallet gives the same offset, to the last tenth of a micron or two
        assert max(x for x, _ in places) - min(x for x, _ in places) <= D("0.0002")


@searches(80)
@given(st.lists(EDITS, max_size=9))
def test_any_changes_leave_a_sound_layout(edits) -> None:
    plan = laid_out(PlaceHolder(1, "Vise", count="2", gap="20"))
    for edit in edits:
        try:
            plan = apply_edit(edit, plan, SHOP).plan
        except DittoError as refusal:
            assert refusal.problem
            assert refusal.remedy
        sound(plan)
    for finding in plan_findings(plan, SHOP.machines):
        assert finding.remedy
    assert PLAN.validate_json(PLAN.dump_json(plan)) == plan


@searches(60)
@given(st.lists(EDITS, max_size=6))
def test_what_clashes_is_said_with_its_distance(edits) -> None:
    plan = laid_out(PlaceHolder(1, "Vise", count="2", gap="20"))
    for edit in edits:
        try:
            plan = apply_edit(edit, plan, SHOP).plan
        except DittoError:
            continue
    for clash in clashes(standings(plan, 1, BED), BED):
        assert clash.says.endswith(".")
        assert clash.way_out.endswith(".")
        assert clash.by_mm > 0 or clash.weight == "note"
        assert clash.about
        assert set(clash.about) <= {placed.key for placed in plan.placed}


VALUE = st.decimals(D(-900), D(900), places=3)
AXES = st.dictionaries(st.sampled_from(["x", "y", "z", "a"]), st.one_of(st.none(), VALUE))
NAMES = st.sampled_from(["", "base", "pallet base", "PALLET BASE ", "other"])


@given(
    st.dictionaries(st.sampled_from(["x", "y", "z"]), VALUE),
    AXES,
    st.one_of(st.none(), st.booleans()),
    st.one_of(st.none(), NAMES),
    NAMES,
)
def test_a_kept_offset_never_changes_without_its_name(before, axes, kept, name, typed) -> None:
    """Whatever the change: it is refused, or nothing of value or keeping is different, or the name was typed."""
    old = Offset("G54", before, kept=True, name="pallet base")
    try:
        new = changed(old, OffsetChange("G54", axes, kept=kept, name=name, typed=typed), MILL)
    except DittoError as refusal:
        assert refusal.field in {"typed", "name"}
        return
    named = typed.strip().lower() == "pallet base"
    assert named or (dict(new.axes), new.kept, new.name) == (dict(old.axes), True, "pallet base")
    assert bool(change_words(old, new)) == (dict(new.axes) != dict(old.axes))


@given(st.sampled_from(["x", "z", "a"]), VALUE, st.sampled_from(["", " mm", " in"]))
def test_an_axis_reads_back_as_it_is_kept(axis, value, unit) -> None:
    read = read_axis(axis, f"{value}{unit if axis != 'a' else ''}", MILL, axis)
    assert read is not None
    assert read_axis(axis, f"{read}", MILL, axis) == read
    assert read == read.quantize(D("0.001"))
