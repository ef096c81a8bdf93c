"""Bundles: a job goes out and comes back the same, and a damaged file changes nothing."""

import json

import pytest

from ditto_run.core.errors import FileNotRead
from ditto_run.core.run import events as do
from ditto_run.desk import Desk, open_desk
from ditto_run.formats.job_bundle import Bundle, read_bundle, write_bundle
from ditto_run.store.database import Database
from tests.conftest import planned

PNG = b"\x89PNG\r\n\x1a\n and more"


@pytest.fixture
def job(desk: Desk) -> int:
    job = desk.jobs.new(planned(6), "RK")
    run = desk.runs.start(job, "RK")
    for n, command in enumerate(
        (do.StartCycle(), do.EndCycle(), do.TakeReading(1, 1, "20.001"), do.AddNote("ø"), do.Undo())
    ):
        desk.runs.record(run, command, "RK", f"k{n}")
    desk.jobs.attach(job, "drawing.png", PNG)
    return job


def plain(bundle: Bundle) -> dict:
    data = bundle.model_dump(mode="json")
    return {name: value for name, value in data.items() if name not in {"machines", "gauges"}}


def test_it_comes_back_the_same(desk: Desk, job: int) -> None:
    first = desk.bundles.take_out(job)
    again = desk.bundles.bring_in(read_bundle(write_bundle(first)))

    assert again != job
    assert plain(desk.bundles.take_out(again)) == plain(first)
    assert len(desk.shop.load().machines) == 1


def test_it_comes_into_an_empty_shop_with_its_machine(desk: Desk, job: int, tmp_path) -> None:
    from ditto_run.settings import Settings

    empty = open_desk(Settings(tmp_path / "other"))
    again = empty.bundles.bring_in(read_bundle(write_bundle(desk.bundles.take_out(job))))
    assert plain(empty.bundles.take_out(again)) == plain(desk.bundles.take_out(job))
    assert [machine.name for machine in empty.shop.load().machines.values()] == ["Mill 2"]
    with empty.runs.folded(empty.runs.of_job(again)) as state:
        assert state.pieces[1].last(state.cycle, 1).text == "20.001"
    assert empty.jobs.attachment(again, 1).content == PNG


def broken(data: dict, how: str) -> bytes:
    """Return the bundle's file with one thing wrong."""
    whole = json.dumps(data).encode()
    if how == "cut off":
        return whole[: len(whole) // 2]
    if how == "newer":
        data["version"] = 99
    if how == "other format":
        data["format"] = "shopping list"
    if how == "unknown field":
        data["surprise"] = 1
    if how == "missing version":
        data["head"] = 77
    if how == "a million pieces":
        cycle = next(e for e in data["runs"][0]["events"] if e["body"]["kind"] == "cycle_started")
        cycle["body"]["stations"][0]["pieces"] = [1_000_000]
    if how == "reading of no piece":
        next(e for e in data["runs"][0]["events"] if e["body"]["kind"] == "reading")["body"]["piece"] = 55
    if how == "not json":
        return b"\xff\xfe\x00"
    if how == "a list":
        return b"[1, 2]"
    if how == "deep":
        return b"[" * 100_000
    return json.dumps(data).encode()


HOWS = {
    "cut off": "breaks off",
    "newer": "version 99",
    "other format": "no job bundle",
    "unknown field": "hold together at surprise",
    "missing version": "not in it",
    "a million pieces": "more pieces",
    "reading of no piece": "does not fit",
    "not json": "breaks off",
    "a list": "no job bundle",
    "deep": "job bundle",
}


@pytest.mark.parametrize(("how", "words"), HOWS.items())
def test_a_damaged_one_is_said_and_changes_nothing(desk: Desk, job: int, how: str, words: str) -> None:
    data = json.loads(write_bundle(desk.bundles.take_out(job)))
    before = counted(desk.database)
    with pytest.raises(FileNotRead, match=words):
        desk.bundles.bring_in(read_bundle(broken(data, how)))
    assert counted(desk.database) == before


def counted(database: Database) -> list[int]:
    with database.reading() as connection:
        return [
            connection.exec_driver_sql(f"SELECT count(*) FROM {name}").scalar_one()
            for name in ("job", "plan_version", "run", "run_event", "machine", "attachment")
        ]
