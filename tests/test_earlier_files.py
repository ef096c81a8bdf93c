"""Jobs, plans, runs, bundles and backups of every earlier version open and mean the same."""

import gzip
import json
from pathlib import Path
from typing import Any

import pytest

from ditto_run.core.plan import plan_findings
from ditto_run.desk import Desk, open_desk
from ditto_run.formats.job_bundle import read_bundle, write_bundle
from ditto_run.settings import Settings

FILES = Path(__file__).parent / "data/earlier"
MADE = {3: 37, 4: 31}  # pieces of the demo's stories: the pin and the clamp block


def opened(name: str) -> bytes:
    return gzip.decompress((FILES / name).read_bytes())


def told(plan: dict[str, Any]) -> dict[str, Any]:
    """What a plan in a file says, in the words this test compares."""
    return {
        "part": plan["heading"]["part"],
        "quantity": plan["heading"]["quantity"],
        "sizes": [(c["number"], c["name"], c["size"]["text"], c["grade"]) for c in plan["characteristics"]],
        "features": [
            (f["key"], f["name"], f["face"], f["kind"], f.get("characteristic"))
            for f in plan.get("features", ())
        ],
        "setups": [(s["key"], s["name"], s["holds"], list(s.get("cuts", ()))) for s in plan["setups"]],
        "tools": [(t["tool"], t["does"], t["cut_s"], t["change_s"]) for t in plan["tool_steps"]],
    }


def means(desk: Desk, job_id: int) -> dict[str, Any]:
    """The same of a plan that was opened, by its own bundle."""
    return told(json.loads(write_bundle(desk.bundles.take_out(job_id)))["versions"][-1]["plan"])


@pytest.mark.parametrize("job", [3, 4])
@pytest.mark.parametrize("age", [1, 2, 3, 4])
def test_a_bundle_of_an_earlier_version_means_the_same(age: int, job: int, tmp_path: Path) -> None:
    content = opened(f"job{job}-{age}.json.gz")
    before = json.loads(content)
    desk = open_desk(Settings(tmp_path / "shop"))
    again = desk.bundles.bring_in(read_bundle(content))

    assert means(desk, again) == told(before["versions"][-1]["plan"])
    with desk.runs.folded(desk.runs.of_job(again)) as state:
        assert len(state.pieces) >= MADE[job]
        assert state.here.master == 1
    assert all(not feature.line and not feature.supplied for feature in desk.jobs.load(again).plan.features)
    assert all(setup.held.up == "" for setup in desk.jobs.load(again).plan.setups)


@pytest.mark.parametrize("age", [1, 2, 3, 4])
def test_a_backup_of_an_earlier_version_means_the_same(age: int, tmp_path: Path) -> None:
    folder = tmp_path / "shop"
    folder.mkdir()
    (folder / "ditto-run.db").write_bytes(opened(f"shop-{age}.db.gz"))
    desk = open_desk(Settings(folder))

    for job in (3, 4):
        before = json.loads(opened(f"job{job}-{age}.json.gz"))
        assert means(desk, job) == told(before["versions"][-1]["plan"])
        with desk.runs.folded(desk.runs.of_job(job)) as state:
            assert len(state.pieces) >= MADE[job]
    assert {machine.name for machine in desk.shop.load().machines.values()} >= {"Mill 2", "Lathe 1"}


def test_by_name_alone_no_size_is_asked_and_nothing_is_judged_by_size(tmp_path: Path) -> None:
    """A plan of before features had sizes is checked as it was: by names."""
    desk = open_desk(Settings(tmp_path / "shop"))
    job = desk.bundles.bring_in(read_bundle(opened("job4-4.json.gz")))
    plan = desk.jobs.load(job).plan
    codes = {finding.code for finding in plan_findings(plan, desk.shop.load().machines)}
    assert not codes & {
        "cut-meets-jaws",
        "grip-shallow",
        "seat-small",
        "starts-in-stock",
        "through-no-room",
        "feature-never",
    }


def test_parts_and_cycles_of_before_there_were_batches_mean_the_same(tmp_path: Path) -> None:
    folder = tmp_path / "shop"
    folder.mkdir()
    (folder / "ditto-run.db").write_bytes(opened("shop-5.db.gz"))
    desk = open_desk(Settings(folder))
    stays, bushing = (
        job if kept else desk.bundles.bring_in(read_bundle(opened(f"job{job}-5.json.gz")))
        for job, kept in ((1, True), (2, False))
    )
    with desk.runs.folded(desk.runs.of_job(stays)) as state:
        assert {part: dict(+counts) for part, counts in state.by_part.items()} == {
            1: {"good": 3},
            2: {"good": 3},
        }
        assert [cycle.name for cycle in state.plan.all_cycles] == ["stays"]
        assert (state.batch, state.numbered_after) == (1, 0)
    with desk.runs.folded(desk.runs.of_job(bushing)) as state:
        assert dict(+state.counts) == {"good": 11, "not gauged": 3}
        assert [cycle.name for cycle in state.plan.all_cycles] == ["on Lathe 1", "on the hand lathe"]
    assert desk.runs.batches(bushing).keys() == {1}
