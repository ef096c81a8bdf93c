"""What the judgement says on the Run page, and the one key that does it; a page is drawn whatever becomes of it."""

import re

import pytest
from starlette.testclient import TestClient

from ditto_run.core.run import events as do
from ditto_run.desk import Desk, advice
from ditto_run.desk.gate import start_run
from tests.conftest import planned
from tests.web.conftest import flat

HX = {"HX-Request": "true", "HX-Target": "board"}


class Shift:
    """A run of one vise, cut and gauged load by load."""

    def __init__(self, desk: Desk) -> None:
        self.desk, self.n = desk, 0
        self.job = desk.jobs.new(planned(40, stations="A"), "RK")
        self.run = start_run(desk, self.job, "RK")

    def do(self, *commands: object) -> None:
        for command in commands:
            self.n += 1
            self.desk.runs.record(self.run, command, "RK", f"k{self.n}")  # type: ignore[arg-type]

    def load(self, slot: str, height: str = "31.5") -> None:
        self.do(do.StartCycle(), do.EndCycle())
        with self.desk.runs.folded(self.run) as state:
            piece = state.here.loads[-1].pieces[0]
        self.do(
            do.TakeReading(piece, 1, slot, confirm=slot), do.TakeReading(piece, 2, height, confirm=height)
        )


@pytest.fixture
def shift(desk: Desk) -> Shift:
    found = Shift(desk)
    found.load("20.001")
    found.do(do.AcceptMaster(1))
    return found


def page(client: TestClient, shift: Shift) -> str:
    return flat(client.get(f"/jobs/{shift.job}/run").text)


def test_a_turn_is_said_in_the_controls_terms_and_written_down_by_one_key(
    client: TestClient, desk: Desk, shift: Shift
) -> None:
    for size in ("20.019", "20.020", "20.021", "20.020", "20.019", "20.021"):
        shift.load(size)
        if 'data-kind="turn"' in page(client, shift):
            break
    shown = page(client, shift)
    assert re.search(r"Add \+0\.0\d\d mm to the T03 diameter wear\.", shown)
    assert "over its target" in shown
    assert shown.count("Add +0.0") >= 2  # said to the ear too
    form = dict(
        re.findall(
            r'<input type="hidden" name="(\w+)" value="([^"]*)"',
            shown.partition('id="advice-form"')[2].partition("</form>")[0],
        )
    )
    assert form["what"] == "T03 diameter wear"
    answer = client.post(f"/jobs/{shift.job}/run/do", data=form | {"client_key": "y1"}, headers=HX)
    assert answer.status_code == 200, answer.text
    with desk.runs.folded(shift.run) as state:
        (turned,) = state.here.dialled
        assert (turned.what, turned.amount_mm) == ("T03 diameter wear", float(form["amount"]))
    assert 'data-kind="turn"' not in page(client, shift)


def test_a_piece_behind_one_that_is_out_is_opened_by_one_key(client: TestClient, shift: Shift) -> None:
    shift.do(do.GaugeEvery(1, 50), do.GaugeEvery(2, 50))
    for _ in range(5):
        shift.do(do.StartCycle(), do.EndCycle())
    shift.load("20.050")
    shown = page(client, shift)
    found = re.search(r'data-key="y" href="([^"]+)"><kbd>Y</kbd>Gauge piece (\d+)', shown)
    assert found is not None, shown[-3000:]
    opened = flat(client.get(found[1].replace("&amp;", "&")).text)
    assert f"Gauge the slot on piece {found[2]}." in opened


def test_nothing_is_advised_while_a_reading_is_asked_for_or_a_load_is_cut(
    client: TestClient, shift: Shift
) -> None:
    assert 'id="advice"' in page(client, shift)
    shift.do(do.StartCycle())
    assert 'id="advice"' not in page(client, shift)
    shift.do(do.EndCycle())
    assert 'id="advice"' not in page(client, shift)  # the new piece is to be gauged first


def test_masters_and_looks_are_written_down_by_their_forms(
    client: TestClient, desk: Desk, shift: Shift
) -> None:
    at = f"/jobs/{shift.job}/run/do"
    for n, (form, said) in enumerate(
        (
            ({"kind": "try_master", "characteristic": 1, "error": ""}, "reads true on its master"),
            (
                {"kind": "try_master", "characteristic": 1, "error": "-0.002"},
                "read 0.002 mm too little; it is set right",
            ),
            (
                {"kind": "look_at_hold", "station": "A", "loose": "true"},
                "Station A was loose, and is tight again.",
            ),
            ({"kind": "look_at_hold", "station": "", "loose": "false"}, "Every station holds."),
        )
    ):
        answer = client.post(at, data=form | {"client_key": f"m{n}"}, headers=HX)
        assert answer.status_code == 200, answer.text
        assert said in flat(answer.text)
    refused = client.post(
        at, data={"kind": "try_master", "characteristic": 1, "error": "much", "client_key": "z"}, headers=HX
    )
    assert "“much” is no length." in refused.text
    with desk.runs.folded(shift.run) as state:
        assert [one.error_mm for one in state.here.mastered] == [0, -0.002]
        assert [(one.station, one.loose) for one in state.here.looked] == [("A", True), ("", False)]


def test_a_judgement_that_fails_keeps_nobody_from_recording(
    client: TestClient, shift: Shift, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object) -> None:
        raise FloatingPointError

    monkeypatch.setattr(advice.Mind, "advise", broken)
    shift.load("20.003")
    shown = page(client, shift)
    assert "Load A, then start load 3." in shown
    assert 'id="advice"' not in shown


def test_a_long_log_is_read_after_the_page_is_drawn(
    client: TestClient, shift: Shift, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(advice, "SHORT", 1)
    shift.load("20.002")
    shown = page(client, shift)
    assert "What was written down is being read." in shown
    where = re.search(r'id="advice" hx-get="([^"]+)"', shown)
    assert where is not None
    said = flat(client.get(where[1]).text)
    assert "data-kind=" in said
    assert "being read" not in said
    assert "data-kind=" in page(client, shift)  # from now on it is there at once


def test_a_turn_that_was_shown_and_passed_by_is_written_with_the_start(
    client: TestClient, desk: Desk, shift: Shift
) -> None:
    for size in ("20.019", "20.020", "20.021", "20.020", "20.019", "20.021"):
        shift.load(size)
        if 'data-kind="turn"' in page(client, shift):
            break
    client.post(f"/jobs/{shift.job}/run/do", data={"kind": "start_cycle", "client_key": "s"}, headers=HX)
    with desk.runs.folded(shift.run) as state:
        (left,) = state.here.turns_advised
        assert left.what == "T03 diameter wear"
        assert state.here.running is not None
    client.post(
        f"/jobs/{shift.job}/run/do", data={"kind": "end_cycle", "confirm": "", "client_key": "e"}, headers=HX
    )
    assert "1 turn advised: 1 left." in flat(client.get(f"/jobs/{shift.job}/run/time").text)
    assert "1 turn advised: 1 left." in flat(client.get(f"/jobs/{shift.job}/close").text)


def test_the_cause_is_one_tap_and_stays_pressed(client: TestClient, desk: Desk, shift: Shift) -> None:
    shift.do(do.GaugeEvery(1, 50), do.GaugeEvery(2, 50))
    for _ in range(5):
        shift.do(do.StartCycle(), do.EndCycle())
    shift.load("20.045")
    shown = page(client, shift)
    assert 'id="cause-form"' in shown
    client.post(
        f"/jobs/{shift.job}/run/do",
        data={"kind": "say_cause", "piece": "7", "cause": "loosened", "client_key": "c"},
        headers=HX,
    )
    with desk.runs.folded(shift.run) as state:
        assert state.here.causes == {7: "loosened"}
    assert 'value="loosened" aria-pressed="true"' in page(client, shift)


def test_a_stop_is_written_from_the_note_and_shown_to_who_comes_back(
    client: TestClient, shift: Shift
) -> None:
    at = f"/jobs/{shift.job}/run"
    form = flat(client.get(f"{at}/form/note").text)
    assert 'value="chatter">chatter</button>' in form
    assert f'hx-get="{at}/form/stop"' in form
    assert 'name="recover"' in client.get(f"{at}/form/stop").text
    client.post(
        f"{at}/do",
        data={
            "kind": "write_stop",
            "what": "the drill clogged",
            "recover": "T05",
            "hit": "true",
            "client_key": "w",
        },
        headers=HX,
    )
    assert "It stopped: the drill clogged. It goes on at T05." in flat(client.get(f"{at}/time").text)
    refused = client.post(f"{at}/do", data={"kind": "write_stop", "what": "", "client_key": "v"}, headers=HX)
    assert refused.status_code == 422
