"""An older database with data in it is brought up to date; the schema is that of the tables."""

import json
import sqlite3
from dataclasses import replace
from decimal import Decimal as D
from pathlib import Path

import pytest
from sqlalchemy import create_engine, inspect

from ditto_run.core.errors import FileNotRead
from ditto_run.core.sheets.answer import KeptSheet
from ditto_run.desk.runs import Runs
from ditto_run.formats.documents import PLAN
from ditto_run.formats.line_documents import BODY
from ditto_run.settings import now
from ditto_run.store import tables
from ditto_run.store.database import HEAD, Database, _engine, upgrade
from ditto_run.store.drawers import Drawers
from ditto_run.store.jobs import Jobs
from ditto_run.store.offsets import Offsets
from tests.conftest import CoreHand, planned

VERSIONS = Path(__file__).parents[2] / "src/ditto_run/store/migrations/versions"


def old_database(path: Path) -> None:
    """Write a database of the first schema, with a job in the middle of its run."""
    engine = _engine(path)
    upgrade(engine, "0001")
    engine.dispose()
    hand = CoreHand(planned(6)).proven()
    connection = sqlite3.connect(path)
    connection.execute("INSERT INTO job VALUES (1, '2026-01-01T08:00:00+00:00', NULL, 0, 1)")
    document = PLAN.dump_json(planned(6)).decode()
    connection.execute(
        "INSERT INTO plan_version VALUES (1, 1, NULL, ?, 'new job', 'RK', '2026-01-01T08:00:00+00:00')",
        (document,),
    )
    connection.execute("INSERT INTO revision VALUES (1, 1, 1, 'start')")
    connection.execute("INSERT INTO run VALUES (1, 1, 1)")
    for e in hand.log:
        body = json.dumps(BODY.dump_python(e.body, mode="json"))
        connection.execute(
            "INSERT INTO run_event VALUES (1, ?, ?, ?, ?, ?)",
            (e.seq, e.at.isoformat(), e.who, e.client_key, body),
        )
    connection.commit()
    connection.close()


def test_an_older_database_keeps_its_data(tmp_path: Path) -> None:
    path = tmp_path / "ditto-run.db"
    old_database(path)
    database = Database(path)
    jobs, runs = Jobs(database, now), Runs(database, now)

    assert [job.id for job in jobs.find("clamp")] == [1]
    with runs.folded(1) as state:
        assert state.here.master == 1
        assert (state.counts["good"], state.counts["not gauged"]) == (1, 2)
    assert jobs.attachments(1) == []


def test_head_is_the_newest_file() -> None:
    assert max(path.name[:4] for path in VERSIONS.glob("0*.py")) == HEAD


def test_migrations_make_the_schema_of_the_tables(tmp_path: Path) -> None:
    Database(tmp_path / "migrated.db")
    tables.metadata.create_all(create_engine(f"sqlite:///{tmp_path / 'made.db'}"))
    migrated, made = (
        inspect(create_engine(f"sqlite:///{tmp_path / name}.db")) for name in ("migrated", "made")
    )
    for name in made.get_table_names():
        columns = [
            {(c["name"], str(c["type"]), c["nullable"]) for c in side.get_columns(name)}
            for side in (migrated, made)
        ]
        assert columns[0] == columns[1], name


def test_a_newer_database_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "ditto-run.db"
    Database(path).close()
    connection = sqlite3.connect(path)
    connection.execute("UPDATE alembic_version SET version_num = '9999'")
    connection.commit()
    with pytest.raises(FileNotRead, match="newer Ditto Run"):
        Database(path)


def test_offsets_written_down_in_plans_become_the_first_lines_of_the_register(tmp_path: Path) -> None:
    path = tmp_path / "ditto-run.db"
    old_database(path)
    engine = _engine(path)
    upgrade(engine, "0004")
    engine.dispose()
    plan = json.loads(PLAN.dump_json(planned(6)))
    plan["stations"][0] |= {"zero": ["-23.6220", "-5.0394", None], "unit": "in"}
    connection = sqlite3.connect(path)
    connection.execute(
        "INSERT INTO machine VALUES (1, 'Mill 2', 'mill', 'G54-G59', 'diameter', 'plus', '0.0001', 'in', 0, '{}')"
    )
    connection.execute("UPDATE plan_version SET document = ?", (json.dumps(plan),))
    connection.commit()
    connection.close()

    register = Offsets(Database(path), now).of(1)

    assert list(register) == ["G54"]
    assert register["G54"].axes == {"x": D("-23.6220"), "y": D("-5.0394")}
    assert (register["G54"].who, register["G54"].how) == ("RK", "from the plan of Clamp block")


def test_a_force_typed_alone_in_a_job_in_inches_stays_metric(tmp_path: Path) -> None:
    """Until then 500 was 500 N in every job; in a job in inches it would be read as pounds now."""
    path = tmp_path / "ditto-run.db"
    engine = _engine(path)
    upgrade(engine, "0007")
    engine.dispose()
    sheet = KeptSheet(1, "grip", "Will it hold", {"cutting": "500", "rated": "2 kN", "screw": "16 mm"})
    inch = replace(planned(6), sheets=(sheet,))
    inch = replace(inch, heading=replace(inch.heading, unit="in"))
    metric = replace(inch, heading=replace(inch.heading, unit="mm"))
    with sqlite3.connect(path) as connection:
        for job, plan in ((1, inch), (2, metric)):
            connection.execute(
                "INSERT INTO job (id, created_at, is_demo, head) VALUES (?, '2026-01-01T08:00:00+00:00', 0, 1)",
                (job,),
            )
            connection.execute(
                "INSERT INTO plan_version (job_id, version, document, what, who, at)"
                " VALUES (?, 1, ?, 'new job', 'RK', '2026-01-01T08:00:00+00:00')",
                (job, PLAN.dump_json(plan).decode()),
            )
    jobs = Jobs(Database(path), now)
    assert jobs.load(1).plan.sheets[0].texts == {"cutting": "500 N", "rated": "2 kN", "screw": "16 mm"}
    assert jobs.load(2).plan.sheets[0].texts == sheet.texts


def test_registers_say_the_unit_they_were_typed_in(tmp_path: Path) -> None:
    """Until then a bare 4 of a holder was 4 mm or 4 in as the shop's unit happened to stand; films were µm in every shop."""
    path = tmp_path / "ditto-run.db"
    engine = _engine(path)
    upgrade(engine, "0008")
    engine.dispose()
    sheet = KeptSheet(1, "machine", "Machine", {"speed": "30", "feed": "0.1"})
    inch = replace(planned(6), sheets=(sheet,))
    inch = replace(inch, heading=replace(inch.heading, unit="in"))
    with sqlite3.connect(path) as connection:
        connection.execute("INSERT INTO setting VALUES ('unit', 'in')")
        for name, texts in (
            ("holders", {"name": "Vise", "kind": "vise", "low": "0", "high": "4", "repeat": "0.01 mm"}),
            ("coatings", {"name": "zinc", "film_low": "5", "film_high": "12"}),
            ("materials", {"name": "brass", "density": "8.5", "price": "9", "kc11": "780", "mc": "0.18"}),
        ):
            connection.execute(
                "INSERT INTO drawer_row (drawer, texts) VALUES (?, ?)", (name, json.dumps(texts))
            )
        connection.execute(
            "INSERT INTO job (id, created_at, is_demo, head) VALUES (1, '2026-01-01T08:00:00+00:00', 0, 1)"
        )
        connection.execute(
            "INSERT INTO plan_version (job_id, version, document, what, who, at)"
            " VALUES (1, 1, ?, 'new job', 'RK', '2026-01-01T08:00:00+00:00')",
            (PLAN.dump_json(inch).decode(),),
        )
    drawers = Drawers(Database(path))
    for unit in ("in", "mm"):
        holder, zinc, brass = (
            drawers.rows(name, unit)[0].value for name in ("holders", "coatings", "materials")
        )
        assert (holder.high_mm, holder.repeat_mm) == (D("101.6"), D("0.01"))
        assert (zinc.film_low_um, zinc.film_high_um) == (5, 12)
        assert (brass.density, brass.cents_per_kg, brass.kc11) == (D("8.5"), 900, 780)
    assert Jobs(Database(path), now).load(1).plan.sheets[0].texts == {"speed": "30 m/min", "feed": "0.1"}
