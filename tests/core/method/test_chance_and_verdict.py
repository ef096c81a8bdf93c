"""How sure a comparison is. The ranges and shares are calibrated against truths drawn another way."""

from dataclasses import replace
from decimal import Decimal
from math import inf
from random import Random
from statistics import NormalDist

import pytest

from ditto_run.core.method import Guess, MethodWanted, Ready, Way, draw, judge, line_of
from ditto_run.core.method.chance import crossing_range, sampler, words_of
from ditto_run.core.method.guess import exactly
from ditto_run.core.method.starting import STARTS, starting_way
from ditto_run.core.method.totals import CostLine

CASES, DRAWS = 1000, 1500
NORMAL = NormalDist()


def truth_of(guess: Guess, chance: Random) -> float:
    """Draw a true time by the inverse of the distribution, not by the way the product draws it."""
    if not guess.likely_s:
        return 0.0
    u = chance.random()
    z = NORMAL.inv_cdf(min(max(u, 1e-9), 1 - 1e-9)) / NORMAL.inv_cdf(0.9)
    ratio = guess.high_s / guess.likely_s if z > 0 else guess.likely_s / guess.low_s
    return guess.likely_s * ratio**z


def random_way(key: int, chance: Random) -> Way:
    def guess(low: float, high: float) -> Guess:
        likely = chance.uniform(low, high)
        return Guess("", likely * chance.uniform(0.5, 0.95), likely, likely * chance.uniform(1.05, 2.5))

    ready = tuple(Ready(what, guess(300, 6000)) for what in ("fixture", "setting up"))
    return Way(key, f"way {key}", ready=ready, load=guess(5, 60), cut=guess(60, 400), deburr=guess(10, 90))


def test_80_per_cent_ranges_hold_the_truth_in_75_to_85_of_100_cases() -> None:
    chance, inside = Random(7), 0
    for case in range(CASES):
        way = random_way(1, chance)
        low, high = draw([way], "time", 30, seed=case, draws=DRAWS).totals[0]
        inside += low <= line_of(way, "time", lambda g: truth_of(g, chance)).at(30) <= high
    assert 0.75 * CASES <= inside <= 0.85 * CASES


def test_a_way_said_to_win_in_9_of_10_wins_about_so_often() -> None:
    chance, said, won = Random(11), [], []
    for case in range(CASES):
        ways = [random_way(1, chance), random_way(2, chance)]
        said.append(draw(ways, "time", 30, seed=case, draws=DRAWS).wins[0])
        real = [line_of(way, "time", lambda g: truth_of(g, chance)).at(30) for way in ways]
        won.append(real[0] < real[1])
    for low, high in ((0.0, 0.2), (0.2, 0.4), (0.4, 0.6), (0.6, 0.8), (0.8, 1.01)):
        group = [w for s, w in zip(said, won, strict=True) if low <= s < high]
        mean = sum(s for s in said if low <= s < high) / len(group)
        assert len(group) > 30
        assert abs(sum(group) / len(group) - mean) < 0.12, (low, high)


def test_the_same_seed_gives_the_same() -> None:
    ways = [starting_way(start.kind, i) for i, start in enumerate(STARTS[:4])]
    assert draw(ways, "time", 48, 3).wins == draw(ways, "time", 48, 3).wins
    assert draw(ways, "time", 48, 3).wins != draw(ways, "time", 48, 4).wins


def test_a_tenth_of_the_draws_lies_below_low_and_above_high() -> None:
    values = sampler(5, 40_000)(Guess("", 80, 100, 150))
    assert (values < 80).mean() == pytest.approx(0.1, abs=0.01)
    assert (values > 150).mean() == pytest.approx(0.1, abs=0.01)
    assert (values < 100).mean() == pytest.approx(0.5, abs=0.01)


def test_exact_times_leave_no_doubt() -> None:
    one, other = (
        Way(i, f"w{i}", cut=exactly(cut), ready=(Ready("jaws", exactly(ready)),))
        for i, (cut, ready) in enumerate(((60, 0), (40, 900)))
    )
    found = draw([one, other], "time", 100)
    assert found.wins == (0, 1)
    assert found.totals == ((6000, 6000), (4900, 4900))
    crossed = crossing_range(found.lines[1], found.lines[0], pays_from=True)
    assert (crossed.at, crossed.low, crossed.high) == (45, 45, 45)
    assert crossing_range(CostLine(0, 5), CostLine(10, 5), pays_from=True).low == inf


def test_where_a_way_pays_lies_in_its_own_range() -> None:
    """Draws that never cross count too: leaving them out put the estimate, 724, outside 13 to 360."""
    wide = Guess("", 60, 300, 1500)
    ways = [
        Way(1, "plain", cut=wide),
        Way(2, "jig", cut=replace(wide, likely_s=290), ready=(Ready("fixture", exactly(7240)),)),
    ]
    for quantity in (20, 700, 5000):
        verdict = judge(ways, MethodWanted(quantity))
        for crossing in verdict.crossings:
            assert crossing.low is None or crossing.low <= crossing.at
            assert crossing.high is None or crossing.at <= crossing.high


def test_a_way_without_its_price_or_its_times_says_so() -> None:
    assert (Way(1, "buy it", "buy", wait_days=Decimal(10)).lacks, Way(2, "jig").lacks) == (
        "its price",
        "its times",
    )
    assert not Way(1, "buy it", "buy", bought_cents=5).lacks
    assert not Way(2, "jig", cut=exactly(60)).lacks


@pytest.mark.parametrize(
    ("share", "words"),
    [(0, "hardly ever"), (0.31, "in 3 of 10"), (0.93, "in 9 of 10"), (0.97, "nearly always"), (1, "always")],
)
def test_shares_in_words(share: float, words: str) -> None:
    assert words_of(share) == words


PLAIN = Way(1, "one at a time", "dial-in", (Ready("setting up", exactly(1200)),), cut=exactly(480))
JAWS = Way(
    2,
    "soft jaws",
    "soft-jaws",
    (Ready("jaws", exactly(3600), lasting=True), Ready("setting up", exactly(2100))),
    cut=exactly(300),
)
PLATE = Way(3, "plate", "fixture", (Ready("fixture", exactly(40_000), lasting=True),), cut=exactly(240))


def test_the_verdict_says_how_much_and_from_where() -> None:
    """(5700 − 1200)/(480 − 300) = 25 pieces; at 48: 1200 + 48 × 480 less 5700 + 48 × 300 is 4,140 s."""
    found = judge([PLAIN, JAWS, PLATE], MethodWanted(48))
    assert (found.winner, found.measure) == (1, "time")
    assert found.say == "Soft jaws: 1 h 09 less."
    assert found.why.startswith("It pays from 25 pieces")
    assert [rung.way for rung in found.at] == [0, 1, 1, 1, 2]
    assert [(r.low, r.way) for r in found.rungs] == [(4, 0), (26, 1), (572, 2)]


def test_it_pays_from_a_whole_piece_as_the_map_says() -> None:
    """(5740 − 1200)/(480 − 300) = 25.2: at 25 the plain way is still the cheaper one, at 26 no more."""
    slower = Way(2, "soft jaws", "soft-jaws", (Ready("jaws", exactly(5740)),), cut=exactly(300))
    above, below = judge([PLAIN, slower], MethodWanted(48)), judge([PLAIN, slower], MethodWanted(20))
    assert above.why.startswith("It pays from 26 pieces")
    assert [(rung.low, rung.way) for rung in above.rungs] == [(4, 0), (26, 1)]
    assert [(c.pieces, c.pays_from) for c in below.crossings] == [(25, False)]


def test_improving_may_not_be_worth_it() -> None:
    found = judge([PLAIN, JAWS, PLATE], MethodWanted(6))
    assert found.not_worth_it
    assert "over before the plate is ready" in found.why
    assert not judge([PLAIN, JAWS], MethodWanted(6, batches=20)).not_worth_it


def test_the_purpose_changes_the_verdict() -> None:
    learn = judge([PLAIN, JAWS], MethodWanted(20, purpose="learn"))
    assert learn.winner == 1
    assert learn.say == "Soft jaws: the lesson costs 15 min."
    bought = Way(4, "buy it", "buy", bought_cents=100, wait_days=10)
    hurry = judge([PLAIN, bought], MethodWanted(20, purpose="hurry"))
    assert (hurry.winner, hurry.measure) == (0, "days")
    assert "sooner" in hurry.say


def test_a_fixture_is_paid_back_over_batches() -> None:
    """40,000 s of fixture more; a batch of 48 saves 1200 + 48 × (480 − 240) = 12,720 s: 3.1 batches."""
    found = judge([PLAIN, PLATE], MethodWanted(48, batches=2))
    assert found.paybacks[0].batches == pytest.approx(40_000 / 12_720)
    assert "more than the 2 expected" in found.paybacks[0].words
    dear = judge(
        [PLAIN, Way(5, "gold", "fixture", (Ready("fixture", exactly(99), lasting=True),), cut=exactly(900))],
        MethodWanted(48),
    )
    assert "never comes back" in dear.paybacks[0].words


def test_one_way_alone_is_only_added_up() -> None:
    assert judge([PLAIN], MethodWanted(10)).why == "There is nothing to compare it with yet."
