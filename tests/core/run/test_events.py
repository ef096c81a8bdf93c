"""Every event stands in one place, and none lacks its decision, its effect or its sentence."""

from typing import get_args

import pytest

from ditto_run.core.run import events
from ditto_run.core.run.events import Body, Command, apply, decide, sentence
from ditto_run.formats.line_documents import BODY
from tests.conftest import CoreHand, planned

DECIDED_ELSEWHERE = {events.RunStarted}  # start_run makes it, there is no run yet to ask


@pytest.mark.parametrize("wanted", get_args(Command), ids=lambda kind: kind.__name__)
def test_every_wish_is_decided_on(wanted: type) -> None:
    assert decide.dispatch(wanted) is not decide.dispatch(object)


@pytest.mark.parametrize("line", get_args(Body), ids=lambda kind: kind.__name__)
def test_every_line_changes_the_state_and_can_be_said(line: type) -> None:
    assert apply.dispatch(line) is not apply.dispatch(object)
    assert sentence.dispatch(line) is not sentence.dispatch(object)


def test_wish_line_and_sentence_stand_in_one_module() -> None:
    for line in get_args(Body):
        assert apply.dispatch(line).__module__ == line.__module__ == sentence.dispatch(line).__module__


def test_names_are_used_once() -> None:
    kinds = [kind.kind for kind in (*get_args(Body), *get_args(Command))]
    assert len(set(kinds)) == len(kinds)


OLD = {  # lines as earlier versions wrote them
    '{"kind":"run_started","revision":1,"setup":3}': ("rules", 1),
    '{"kind":"cycle_started","setup":3,"load":1,"revision":1,"stations":[{"station":"A","pieces":[1]}]}': (
        "machine",
        None,
    ),
    '{"kind":"reading","piece":1,"characteristic":1,"setup":3,"text":"20","value":"20","unit":"mm","decimals":0,"go":null}': (
        "rough",
        False,
    ),
    '{"kind":"adjustment","setup":3,"what":"G54 Z","amount":"0.1","unit":"mm","station":""}': ("moved", None),
    '{"kind":"disposition","piece":1,"outcome":"as_is","reason":"ok"}': ("concession", ""),
    '{"kind":"undone","undoes":4}': ("words", ""),
    '{"kind":"run_closed"}': ("counts", None),
}


@pytest.mark.parametrize(("written", "completed"), OLD.items())
def test_an_old_line_is_completed_when_it_is_read(written: str, completed: tuple[str, object]) -> None:
    name, value = completed
    assert getattr(BODY.validate_json(written), name) == value


def test_a_batch_closed_under_the_old_rules_keeps_its_counts() -> None:
    """Then a made piece counted good. Now it is not gauged, unless its batch was closed already."""
    hand = CoreHand(planned(3)).proven()
    assert hand.state.counts["not gauged"] == 2
    hand.log.append(events.Event(len(hand.log) + 1, hand.at, "RK", "old", events.RunClosed()))
    state = events_folded(hand)
    assert (state.counts["good"], state.counts["not gauged"]) == (3, 0)


def events_folded(hand: CoreHand):
    from ditto_run.core.run import fold

    return fold(hand.log, hand.plans)
