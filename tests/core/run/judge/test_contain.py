"""Which pieces are suspect: the surest first, none less suspect because another was bad, the same whatever stations are called."""

from dataclasses import replace

import numpy as np
import pytest

from bench.judge import contain as played
from bench.judge.contain import Case, Done, Recheck, Seen, make
from ditto_run.core.run.judge import HoldThese, RecheckOne, contain
from ditto_run.core.run.judge.recheck import chances, suspicion


def simple(deviations: list[float], every: int = 5, cause: str = "unknown", stations: int = 1) -> Case:
    """A run of so many pieces, every so many loads gauged; the last one failed."""
    readings = []
    for piece, deviation in enumerate(deviations, 1):
        load = (piece - 1) // stations + 1
        if (load - 1) % every == 0 or piece == len(deviations):
            readings.append(Seen(piece, (piece - 1) % stations + 1, load, deviation))
    return Case(len(deviations), stations, readings, len(deviations), cause, [])


def test_a_jump_is_rechecked_from_the_failed_piece_back() -> None:
    case = simple([0.05, -0.1] * 15 + [1.25], cause="bumped")
    first = contain(case)
    assert isinstance(first, RecheckOne)
    assert 26 < first.piece < 31
    assert "%" in first.why


def test_good_ones_just_before_end_it() -> None:
    case = simple([0.05, -0.1] * 15 + [1.25], cause="bumped")
    asked = 0
    while isinstance(advice := contain(case), RecheckOne):
        case.rechecks.append(Seen(advice.piece, 1, advice.piece, 0.02))
        asked += 1
    assert asked <= 5
    assert advice.hold == ()


def test_nothing_measured_is_left_to_ask_where_all_was() -> None:
    case = simple([0.0, 0.1, 1.3], every=1)
    assert contain(case) == HoldThese((), contain(case).why)


@pytest.mark.parametrize("kind", played.CONTAIN)
def test_suspects_never_shrink_when_a_bad_piece_is_found(kind) -> None:
    for seed in range(3):
        case, truth, _ = make(kind, seed)
        for _ in range(12):
            before = suspicion(case)
            advice = contain(case)
            if not isinstance(advice, RecheckOne):
                break
            deviation = float(truth[advice.piece - 1])
            case.rechecks.append(
                Seen(advice.piece, case.station_of(advice.piece), case.load_of(advice.piece), deviation)
            )
            if abs(deviation) > 1:
                after = suspicion(case)
                assert all(
                    after[piece] >= chance for piece, chance in before.items() if piece != advice.piece
                )


def test_the_same_case_twice_is_the_same() -> None:
    case, _, _ = make(played.Creep, 3)
    assert chances(case) == chances(case)
    assert contain(case) == contain(case)


def test_a_deviation_to_the_other_side_is_as_suspect() -> None:
    case, _, _ = make(played.Step, 5)
    other = replace(case, readings=[replace(r, deviation=-r.deviation) for r in case.readings])
    assert chances(other) == pytest.approx(chances(case), abs=1e-9)


def test_it_is_better_than_every_habit_over_all_kinds() -> None:
    """As `make judge` has it, on few seeds: at most 42 minutes a case, at most 0.45 bad pieces shipped."""
    seeds = range(500, 506)
    mine = np.array(
        [played.play(kind, seed, contain)[:5] for kind in played.CONTAIN for seed in seeds], float
    )
    assert mine[:, 4].mean() <= 42
    assert mine[:, 1].mean() <= 0.45
    back = [played.play(kind, seed, played.two_checks_back)[4] for kind in played.CONTAIN for seed in seeds]
    assert mine[:, 4].mean() < np.mean(back)


def test_the_answers_are_those_of_the_harness() -> None:
    assert RecheckOne(3).kind == "recheck"
    assert Recheck(3).piece == RecheckOne(3).piece
    assert Done((1,)).hold == HoldThese((1,)).hold
