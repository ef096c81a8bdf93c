"""Stops to the thousandth, and whether it holds: exact sums, closed forms, and models of their own."""

from decimal import Decimal
from itertools import combinations, pairwise
from math import cos, pi, sin
from random import Random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from screw_thread_lib import Assembly

from ditto_run.core.errors import BadEntry
from ditto_run.core.hold.blocks import SETS, stack, stack_of_own
from ditto_run.core.hold.picker import Ask, rank_holders
from ditto_run.core.hold.segments import segment
from ditto_run.core.hold.stops import (
    depth_steps,
    dial_of,
    effect_share,
    off_centre_mm,
    part_off_ladder,
    rectangle_laps,
    screw_in_turns,
    tip_stop,
)
from ditto_run.core.hold.strength import (
    air_pressure_kpa,
    counterweight_kg,
    deflection_mm,
    nut_shear_area,
    safety_factor,
    squeezed_ring,
    strap_clamp,
    stripping_force_n,
    vacuum,
    vise_force_n,
    whirl_force_n,
)
from ditto_run.core.part.profile import read_profile
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Known
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.threads import read_thread

D = Decimal
LENGTH = st.integers(1, 20_000).map(lambda n: D(n) / 100)


@given(st.integers(1, 60), LENGTH, LENGTH)
def test_the_ladder_makes_equal_pieces_whichever_edge_was_zeroed(count, length, kerf) -> None:
    by_chuck = part_off_ladder(count, length, kerf, "chuck side")
    by_free = part_off_ladder(count, length, kerf, "free end side")
    assert all(b > a for a, b in pairwise(by_chuck))
    assert {a - b for a, b in zip(by_chuck, by_free, strict=True)} == {kerf}
    free_edges = [place - kerf for place in by_chuck]  # of the blade zeroed at its chuck side
    assert free_edges == list(by_free)
    assert by_free[0] == length
    assert all(b - kerf - a == length for a, b in pairwise([*by_chuck, by_chuck[-1] + length + kerf]))


@pytest.mark.parametrize(("name", "count"), [("inch 81", 81), ("metric 88", 88)])
def test_the_sets_have_as_many_blocks_as_they_are_called_by(name, count) -> None:
    assert len(set(SETS[name].blocks)) == count


@pytest.mark.parametrize(("name", "low", "high"), [("inch 81", 5000, 99_999), ("metric 88", 10_000, 390_000)])
def test_a_thousand_random_sizes_are_exact(name, low, high) -> None:
    chance, chosen = Random(5), SETS[name]
    for _ in range(1000):
        size = chance.randint(low, high) * chosen.step
        blocks = stack(size, name)
        assert sum(blocks) == size
        assert len(set(blocks)) == len(blocks)
        assert set(blocks) <= set(chosen.blocks)


@pytest.mark.parametrize("name", ["inch 81", "metric 88"])
def test_no_smaller_stack_exists(name) -> None:
    """Exhaustive search over one, two and three blocks, an independent derivation."""
    chosen = SETS[name].blocks
    pairs = {a + b for a, b in combinations(chosen, 2)}
    chance = Random(9)
    for _ in range(150):
        picked = chance.sample(chosen, 3)
        size = sum(picked)
        found = stack(size, name)
        assert len(found) <= 3, (size, found)
        if len(found) > 1:
            assert size not in chosen
        if len(found) > 2:
            assert size not in pairs


def test_wear_blocks_and_spacers_of_our_own() -> None:
    found = stack(D("1.3825"), "inch 81", D("0.05"))
    assert sum(found) == D("1.3825")
    assert found.count(D("0.05")) >= 2
    own = [D(n) for n in ("5", "10.2", "12", "20", "25.4", "40")]
    assert stack_of_own(D("55.6"), own) == (D("10.2"), D("20"), D("25.4"))
    assert (
        stack_of_own(D("82.6"), own) == (D("5"), D("12"), D("25.4"), D("40.2")) if D("40.2") in own else True
    )
    for wrong in (
        lambda: stack_of_own(D("3"), own),
        lambda: stack(D("0.00005"), "inch 81"),
        lambda: stack(D("0.01"), "metric 88"),
    ):
        with pytest.raises(BadEntry):
            wrong()


@given(LENGTH, st.sampled_from([D(2), D("2.54"), D(5)]), st.integers(10, 400))
def test_turns_and_divisions_come_back_to_the_travel(travel, per_turn, divisions) -> None:
    dial = dial_of(travel, per_turn, divisions)
    again = per_turn * dial.turns + per_turn * (dial.divisions + dial.rest) / divisions
    assert abs(again - travel) < D("1e-18")
    assert 0 <= dial.clock_h < 12


def test_laps_depths_tips_and_turns_worked_by_hand() -> None:
    lap = rectangle_laps(D(40), D(20), D(6), climb=True)
    assert lap[:2] == [(-3, -3), (-3, 23)]
    assert rectangle_laps(D(40), D(20), D(6), climb=False) == lap[::-1]
    assert depth_steps(D(5), D(2), D("0.2")) == [D("1.6"), D("3.2"), D("4.8"), D(5)]
    with pytest.raises(BadEntry):
        depth_steps(D(1), D(1), D(1))
    assert tip_stop(D(3), D("0.4"), D(0)).holds
    assert not tip_stop(D("0.4"), D("0.4"), D(0)).holds
    assert screw_in_turns(D(12), D("1.5")) == 8
    assert off_centre_mm(D("0.6")) == D("0.3")
    assert effect_share(D("0.02"), D("0.1")) == D("0.4")


@given(
    st.lists(st.tuples(st.integers(5, 90), st.integers(1, 6)), min_size=1, max_size=5), st.integers(10, 60)
)
def test_segments_join_and_never_reach_too_far(rows, reach) -> None:
    at, across, lines = 0, 8, []
    for long, more in rows:
        across += more
        lines.append(f"{at} {at + long} {across}")
        at += long
    found = segment(read_profile(lines, "mm"), D(60), D(reach), D("0.8"), D("0.01"))
    assert found.stretches[0].start_mm == 0
    assert found.stretches[-1].end_mm == at
    for a, b in pairwise(found.stretches):
        assert a.end_mm == b.start_mm
    for stretch in found.stretches:
        assert stretch.end_mm - stretch.start_mm <= reach
        assert all(b < a for a, b in pairwise((D(60), *stretch.passes_mm)))
        assert max(a - b for a, b in pairwise((D(60), *stretch.passes_mm))) <= D("1.6") + D("1e-20")


def test_segments_say_what_is_wrong() -> None:
    found = segment(read_profile(["0 60 8", "60 80 7"], "mm"), D(12), D(36), D(2), D("0.01"))
    assert {f.code for f in found.findings} == {"segments-dip"}
    thin = segment(read_profile(["0 10 11.95"], "mm"), D(12.0), D(36), D("0.02"), D(0))
    assert "last-pass-thin" in {f.code for f in thin.findings}
    taper = segment(read_profile(["0 20 8 10"], "mm"), D(12), D(10), D(1), D(0))
    assert [s.ends_mm for s in taper.stretches] == [(8, 9), (9, 10)]
    assert [s.passes_mm[-1] for s in taper.stretches] == [9, 10]
    with pytest.raises(BadEntry):
        segment(read_profile(["0 10 13"], "mm"), D(12), D(36), D(1), D(0))


def test_torque_and_friction() -> None:
    """[torque] 1/4-20: 101.4 in·lbf at K 0.2 give 2,027 lbf; M10: 50.5 N·m give 25.2 kN."""
    assert vise_force_n(101.4 * 0.1129848, 6.35) / 4.448222 == pytest.approx(2028, rel=0.001)
    assert vise_force_n(50.5, 10) == pytest.approx(25_250)
    assert safety_factor(10_000, 0.15, 2, 1500) == pytest.approx(2)
    factors = [safety_factor(force, 0.15, 2, 1500) for force in range(100, 9000, 300)]
    assert factors == sorted(factors)
    assert strap_clamp(9000, 30, 60).on_work_n == pytest.approx(6000)


@pytest.mark.parametrize(("name", "area"), [("1/4-20", 0.5390), ("1/2-13", 1.1235), ("10-32", 0.3886)])
def test_shear_area_of_the_nut(name: str, area: float) -> None:
    """[h28]: printed by the package; for each inch engaged."""
    thread = read_thread(f"#{name}" if name.startswith("10-") else name)
    theirs = Assembly.from_ASME_B11_UN_2A2B(name, UTSs=150000, UTSn=150000).ASn_min_FEDSTD_2a()
    assert nut_shear_area(thread) == pytest.approx(theirs, rel=0.004)
    assert theirs == pytest.approx(area, abs=0.002)
    assert stripping_force_n(thread, 25.4, 1.0) == pytest.approx(area * 645.16, rel=0.005)


def ring_by_frame(jaws: int, elements: int = 240) -> tuple[float, float]:
    """Return inward and outward displacement of a ring of unit force, radius and EI, by a plane frame of straight beams."""
    stiff = np.zeros((3 * elements, 3 * elements))
    nodes = [(cos(2 * pi * i / elements), sin(2 * pi * i / elements)) for i in range(elements)]
    for i in range(elements):
        j = (i + 1) % elements
        dx, dy = nodes[j][0] - nodes[i][0], nodes[j][1] - nodes[i][1]
        long = (dx * dx + dy * dy) ** 0.5
        c, s, axial = dx / long, dy / long, 1e6
        k = np.zeros((6, 6))
        k[0, 0] = k[3, 3] = axial / long
        k[0, 3] = k[3, 0] = -axial / long
        bend = (
            np.array(
                [
                    [12, 6 * long, -12, 6 * long],
                    [6 * long, 4 * long**2, -6 * long, 2 * long**2],
                    [-12, -6 * long, 12, -6 * long],
                    [6 * long, 2 * long**2, -6 * long, 4 * long**2],
                ]
            )
            / long**3
        )
        k[np.ix_([1, 2, 4, 5], [1, 2, 4, 5])] = bend
        turn = np.zeros((6, 6))
        turn[:3, :3] = turn[3:, 3:] = [[c, s, 0], [-s, c, 0], [0, 0, 1]]
        at = [3 * i, 3 * i + 1, 3 * i + 2, 3 * j, 3 * j + 1, 3 * j + 2]
        stiff[np.ix_(at, at)] += turn.T @ k @ turn
    load = np.zeros(3 * elements)
    for jaw in range(jaws):
        i = jaw * elements // jaws
        load[3 * i : 3 * i + 2] = -nodes[i][0], -nodes[i][1]
    moved = np.linalg.lstsq(stiff, load, rcond=1e-13)[0]
    radial = [moved[3 * i] * x + moved[3 * i + 1] * y for i, (x, y) in enumerate(nodes)]
    return -radial[0], radial[elements // (2 * jaws)]


@pytest.mark.parametrize("jaws", [2, 3, 4, 6])
def test_a_squeezed_ring_against_a_frame_of_its_own(jaws: int) -> None:
    """[roark] from memory; the frame is an independent derivation. Two jaws: 0.1488 and 0.1366 F R³/EI, from memory too."""
    ring = squeezed_ring(1 / 12e3, 10, 0.1, 1, 1e3 / 0.1**3 / 1e3 * 1e3, jaws)
    scale = (1 / 12e3) * 10**3 / (1e3 / 0.1**3 / 1e3 * 1e3 * 0.1**3 / 12)
    inward, outward = ring_by_frame(jaws)
    assert ring.in_mm / scale == pytest.approx(inward, rel=0.01)
    assert ring.out_mm / scale == pytest.approx(outward, rel=0.01)
    if jaws == 2:
        assert ring.in_mm / scale == pytest.approx((pi**2 - 8) / (8 * pi), rel=1e-9)
    with pytest.raises(BadEntry):
        squeezed_ring(1, 10, 5, 1, 1)


def test_vacuum_and_altitude() -> None:
    """[isa] and F = Δp A: 100 × 150 mm at 80 kPa hold 1,200 N; 1,500 m leaves 84.6 kPa, from memory."""
    found = vacuum(15_000, 500, 80, 0, 0.25)
    assert (found.force_n, found.per_seal_n_mm, found.sideways_n) == (1200, 2.4, 300)
    assert air_pressure_kpa(0) == 101.325
    assert air_pressure_kpa(1500) == pytest.approx(84.56, abs=0.05)
    with pytest.raises(BadEntry):
        vacuum(1, 1, 90, 2000, 0.2)


def test_face_plate_balance() -> None:
    assert whirl_force_n(1, 100, 600 / (2 * pi)) == pytest.approx(10)
    assert counterweight_kg(1.5, 40, 80) == 0.75
    forces = [whirl_force_n(1, 40, rpm) for rpm in range(100, 1000, 100)]
    assert forces == sorted(forces)


def test_overhang_by_beam_theory() -> None:
    """[beams]: 0.041390 mm for steel, 0.014019 for carbide (E 620 GPa); printed by two packages. 3 → 6 diameters is 8 times."""
    assert deflection_mm(500, 100, 25, 210_000) == pytest.approx(0.041390, abs=5e-7)
    assert deflection_mm(500, 100, 25, 620_000) == pytest.approx(0.014019, abs=5e-7)
    assert deflection_mm(1, 150, 25, 1) / deflection_mm(1, 75, 25, 1) == pytest.approx(8)
    assert (
        deflection_mm(1, 90, 10, 1, "both ends")
        < deflection_mm(1, 90, 10, 1, "centre")
        < deflection_mm(1, 90, 10, 1)
    )


def test_holders_are_ranked_with_reasons() -> None:
    drawer = drawer_of("holders")
    owned = [drawer.value(texts, "mm") for texts in drawer.standard()]
    best = rank_holders(Ask("round", D(12), "none", quantity=60), owned)
    assert best[0].holder.name == "Collets"
    assert "repeats within 10 µm (0.4 thou)" in " ".join(best[0].reasons)
    assert not best[-1].fits
    thin = rank_holders(Ask("round", D(60), "light", thin=True, quantity=60), owned)
    assert thin[0].holder.kind == "soft jaws"
    wide = {found.holder.name: found for found in rank_holders(Ask("flat", D(400)), owned)}
    assert not any(found.fits for found in wide.values())
    with pytest.raises(BadEntry):
        drawer.value({"name": "x", "low": "9", "high": "3"}, "mm")


def test_of_equal_holders_the_one_that_repeats_better_leads_and_which_way_it_fits_is_said() -> None:
    """A plate of 0.02 mm stood before a vise of 0.005, by the alphabet; and a vise that opens 30 took 42."""
    drawer = drawer_of("holders")
    rows = [
        {
            "name": name,
            "kind": "vise",
            "shape": "flat",
            "low": "0",
            "high": high,
            "marks": "none",
            "repeat": repeat,
        }
        for name, high, repeat in (
            ("A plate", "30", "0.02"),
            ("Z vise", "30", "0.005"),
            ("B never tried", "30", ""),
        )
    ]
    owned = [drawer.value(texts, "mm") for texts in rows]
    found = rank_holders(Ask("flat", D(25), "none", quantity=60, other_mm=D(42)), owned)
    assert [f.holder.name for f in found] == ["Z vise", "A plate", "B never tried"]
    assert "only across 25.0 mm (0.98 in): it does not open 42.0 mm (1.65 in)" in found[0].reasons


@pytest.mark.parametrize(
    ("kind", "texts", "code"),
    [
        ("ladder", {"length": "20", "kerf": "3", "repeat": "0.05", "tolerance": "0.1"}, "stop-repeat"),
        ("stop", {"side": "left", "push": "right"}, "pulling-side"),
        ("stop", {"kind_of_stop": "tool tip", "overlap": "0.3", "slack": "0.4"}, "slips-past"),
        ("grip", {"cutting": "3000", "rated": "9000"}, "grip-weak"),
        ("grip", {"cutting": "3", "rated": "9000", "depth": "2", "height": "30"}, "grip-shallow"),
        ("grip", {"cutting": "3", "rated": "9000", "offset": "60", "jaw": "120"}, "grip-off-centre"),
        ("clamps", {"thread": "M8", "torque": "25", "material": "aluminium", "engaged": "6"}, "engagement"),
        ("clamps", {"thread": "M8", "torque": "60", "material": "plastic", "engaged": "20"}, "thread-strips"),
        (
            "clamps",
            {"thread": "M8", "torque": "25", "engaged": "20", "to_work": "30", "to_heel": "40", "gap": "0"},
            "clamp-bottoms",
        ),
        (
            "clamps",
            {
                "thread": "M8",
                "torque": "25",
                "engaged": "20",
                "to_work": "30",
                "to_heel": "40",
                "heel": "19",
                "toe": "20",
            },
            "heel-low",
        ),
        (
            "clamps",
            {"thread": "M8", "torque": "25", "engaged": "20", "to_work": "90", "to_heel": "30"},
            "stud-far",
        ),
        (
            "thin",
            {"outside": "60", "inside": "54", "width": "20", "force": "900", "allowed": "0.005"},
            "ring-squashed",
        ),
        (
            "thin",
            {
                "outside": "60",
                "inside": "54",
                "width": "20",
                "force": "9",
                "margin": "0.2",
                "hole_error": "0.3",
            },
            "no-clean-up",
        ),
        ("vacuum", {"x": "100", "y": "150", "cutting": "500"}, "vacuum-weak"),
        ("vacuum", {"x": "100", "y": "150", "cord": "3", "groove": "2.9"}, "seal-squeeze"),
        ("overhang", {"length": "100", "across": "10", "force": "300", "allowed": "0.05"}, "overhang"),
        ("segments", {"rows": "0 9 8\n9 20 7", "bar_across": "12", "pass": "1"}, "segments-dip"),
    ],
)
def test_what_would_go_wrong_is_found_and_has_a_remedy(kind: str, texts: dict, code: str) -> None:
    found = {finding.code: finding for finding in sheet_of(kind).answer(texts, Known("mm", 48)).findings}
    assert found[code].weight in {"ask", "stop"}
    assert found[code].remedy


@pytest.mark.parametrize(
    ("kind", "texts", "field"),
    [
        ("ladder", {}, "length"),
        ("ladder", {"length": "2", "kerf": "3"}, "kerf"),
        ("blocks", {"sizes": "x"}, "sizes"),
        ("blocks", {"sizes": "-3"}, "sizes"),
        ("dial", {"places": "3"}, "per_turn"),
        ("strip", {"length": "20", "kerf": "2", "strip": "9"}, "strip"),
        ("grip", {}, "cutting"),
        ("clamps", {"thread": "Z"}, "thread"),
        ("thin", {"outside": "5", "inside": "6"}, "inside"),
        ("vacuum", {"x": "0", "y": "5"}, "x"),
    ],
)
def test_refusals_name_their_field(kind: str, texts: dict, field: str) -> None:
    with pytest.raises(BadEntry) as caught:
        sheet_of(kind).answer(texts, Known("mm", 48))
    assert caught.value.field == field
