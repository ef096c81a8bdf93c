"""Lines that Close writes go out with the job and come in again as they were, and the log shows each."""

from starlette.testclient import TestClient

from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from tests.conftest import Clock, planned
from tests.web.conftest import flat


def test_what_close_writes_is_in_the_log_and_goes_out_and_in_with_the_job(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    job = desk.jobs.new(planned(3), "RK")
    run = start_run(desk, job, "RK")
    lines: list[do.Command] = [do.StartCycle(), do.EndCycle(confirm="1")]
    lines += [do.TakeReading(n, 1, "20.001", confirm="20.001") for n in (1, 2, 3)]
    lines += [do.TakeReading(n, 2, "31.5") for n in (1, 2, 3)]
    lines += [
        do.AcceptMaster(1),
        do.SayFact("price", "14.50"),
        do.CloseRun(),
        do.CountTray("2"),
        do.SayFact("setting_up", "50 min"),
        do.PutLesson("", "look at the flutes", "start list", "Mill 2"),
        do.ReopenRun("one more wanted"),
        do.CloseRun(),
    ]
    for n, command in enumerate(lines):
        desk.runs.record(run, command, "RK", f"k{n}")
    log = flat(client.get(f"/jobs/{job}/run/log").text)
    for words in (
        "What is paid for a piece: 14.50.",
        "2 good pieces counted by hand, 1 fewer than the log says.",
        "How long setting up took: 50 min.",
        "look at the flutes: to the start list, Mill 2.",
        "The batch is open again: one more wanted.",
    ):
        assert words in log
    bundle = client.get(f"/jobs/{job}/close/job.json").content
    client.post("/jobs/import", files={"file": ("job.json", bundle)})
    other = max(desk.runs.of_jobs())
    assert other != job
    with desk.runs.folded(desk.runs.require(other)) as state:
        assert state.facts == {"price": 1450, "setting_up": 3000}
        assert state.tray is not None
        assert state.tray.pieces == 2
        assert [one.words for one in state.lessons.values()] == ["look at the flutes"]
        assert state.closed_at is not None
