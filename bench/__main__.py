"""`make bench`: prints each figure beside its limit and the floors of the same run; exit 1 if one is missed."""

import json
import os
import re
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager, suppress
from dataclasses import replace
from decimal import Decimal
from pathlib import Path
from random import Random
from statistics import median, quantiles
from threading import Event, Thread

import httpx2
import uvicorn
from fastapi import FastAPI
from sqlalchemy import event as sql_event
from starlette.responses import Response

from bench.big_run import big_run
from bench.close import bench_close
from bench.kills import KINDS, kill_once
from bench.part import featured_plan, many_features
from bench.program import bench_program, pocket
from bench.propose import bench_propose
from bench.questions import bench_fronts
from bench.unlike import unlike_run
from bench.weave import bench_weave
from ditto_run.app import create_app
from ditto_run.cli import free_socket
from ditto_run.core.edits import (
    AddWays,
    KeepSheet,
    PlaceHolder,
    PlanRegisters,
    SetLayout,
    SetSetup,
    apply_edit,
)
from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.hold.blocks import SETS, stack
from ditto_run.core.hold.pieces import pieces_in, raw_of
from ditto_run.core.method import STARTS, draw, starting_way
from ditto_run.core.part import Heading
from ditto_run.core.part.features import read_feature
from ditto_run.core.part.shape.measures import shape_part
from ditto_run.core.place.offsets import OffsetChange
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import contacts_of
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Ability, Machine, read_codes
from ditto_run.core.shop.bed import LABELS, read_bed
from ditto_run.core.shop.drawers import DRAWERS
from ditto_run.core.sizes import read_size
from ditto_run.core.stock.mixed import Stock, WantedLength, nest
from ditto_run.demo import add_demo_jobs
from ditto_run.settings import Settings
from ditto_run.web.drawings import HeldPicture, draw_held

ROUNDS = 300
KILLS = 200
SIZES = (100, 1000)
FLAT = 1.25
SEEN = re.compile(r'"seen": "([^"]+)')
COOKIES = {"who": "RK", "layout": "wide"}
NO_SHOP = PlanRegisters()
failed = []


def say(what: str, value: float, limit: float, unit: str) -> None:
    """Print one figure with its limit, and remember a miss."""
    good = value <= limit
    print(f"{'holds ' if good else 'MISSED'} {what}: {value:.1f} {unit} (at most {limit:.1f})")
    if not good:
        failed.append(what)


def timed(work: Callable[[], object], rounds: int = ROUNDS) -> list[float]:
    """Return the milliseconds of each round."""
    taken = []
    for _ in range(rounds):
        started = time.perf_counter()
        work()
        taken.append((time.perf_counter() - started) * 1000)
    return taken


@contextmanager
def served(folder: Path) -> Iterator[tuple[FastAPI, httpx2.Client]]:
    """Serve an application over a data folder on a free port."""
    app = create_app(Settings(folder))

    @app.get("/empty")
    def empty() -> Response:
        return Response("")

    listening = free_socket(0)
    server = uvicorn.Server(
        uvicorn.Config(app, log_level="error", access_log=False, timeout_graceful_shutdown=1)
    )
    thread = Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.01)
    with httpx2.Client(base_url=f"http://127.0.0.1:{listening.getsockname()[1]}", cookies=COOKIES) as client:
        yield app, client
    server.should_exit = True
    thread.join()


def insert_floor(folder: Path) -> float:
    """Return the median of one committed insert with the same pragmas, in ms."""
    connection = sqlite3.connect(folder / "floor.db", isolation_level=None)
    connection.execute("PRAGMA journal_mode=WAL")
    connection.execute("PRAGMA synchronous=FULL")
    connection.execute("CREATE TABLE line (seq INTEGER PRIMARY KEY, body TEXT)")

    def insert() -> None:
        connection.execute("BEGIN IMMEDIATE")
        connection.execute("INSERT INTO line (body) VALUES (?)", ("x" * 200,))
        connection.execute("COMMIT")

    return median(timed(insert))


def reader(client: httpx2.Client, job: int, pieces: int) -> Callable[[], None]:
    """Return the work of recording one reading on the last piece, the page's knowledge kept up."""
    page = client.get(f"/jobs/{job}/run")
    known = {"n": 0, "seen": SEEN.findall(page.text)[0]}

    def one() -> None:
        known["n"] += 1
        sent = {
            "kind": "take_reading",
            "piece": str(pieces),
            "characteristic": str(1 + known["n"] % 6),
            "text": f"{10 + known['n'] % 6}.0{known['n'] % 30:02d}",
            "client_key": f"b{pieces}-{known['n']}",
            "seen": known["seen"],
        }
        answer = client.post(f"/jobs/{job}/run/do", data=sent, headers={"HX-Request": "true"})
        assert answer.headers.get("hx-retarget") == "#board-top", answer.text[:300]
        known["seen"] = SEEN.findall(answer.text)[0]

    return one


def bench_recording() -> None:
    """Recording one reading over HTTP, redraw included: against its floor, p95, and flat from 100 to 1,000.

    Both runs and the floors take turns, so that a busy machine weighs on all of them alike.
    """
    with ExitStack() as stack:
        folders = [Path(stack.enter_context(tempfile.TemporaryDirectory())) for _ in SIZES]
        clients = []
        works = []
        for folder, pieces in zip(folders, SIZES, strict=True):
            _, job, _ = big_run(folder, pieces)
            _, client = stack.enter_context(served(folder))
            clients.append(client)
            client.get(f"/jobs/{job}/run/advice")  # as the page asks for it once the log was read
            works.append(reader(client, job, pieces))
        works.append(lambda: clients[0].get("/empty"))
        taken: list[list[float]] = [[] for _ in works]
        for _ in range(30 + ROUNDS):
            for found, work in zip(taken, works, strict=True):
                found.extend(timed(work, 1))
        taken = [found[30:] for found in taken]
        empty, insert = median(taken[-1]), insert_floor(folders[0])
        floor = empty + insert
        print(f"       empty endpoint {empty:.2f} ms + insert {insert:.2f} ms = floor {floor:.2f} ms")
        for pieces, found in zip(SIZES, taken, strict=False):
            print(f"       a reading with its advice is {median(found) / floor:.1f} floors")
            say(
                f"recording one reading, advice and redraw, {pieces} pieces, p95",
                quantiles(found, n=20)[-1],
                60,
                "ms",
            )
        say("recording at 1,000 pieces against 100", median(taken[1]) / median(taken[0]), FLAT, "×")


def bench_page() -> None:
    """The Run page with 1,000 pieces × 6 characteristics."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        _, job, _ = big_run(folder, 1000)
        with served(folder) as (app, client):
            client.get("/healthz")
            cold = timed(lambda: client.get(f"/jobs/{job}/run"), 1)[0]
            say("run page, 1,000 × 6, asked for before it was read", cold, 500, "ms")
            say(
                "run page, 1,000 × 6, warm",
                median(timed(lambda: client.get(f"/jobs/{job}/run"), 60)),
                60,
                "ms",
            )
            statements = []
            engine = app.state.desk.database.engine

            @sql_event.listens_for(engine, "before_cursor_execute")
            def count(_c: object, _u: object, statement: str, *_rest: object) -> None:
                statements.append(statement)

            answer = client.get(f"/jobs/{job}/run")
            say("run page, SQL statements", len(statements), 8, "")
            packed = client.stream("GET", f"/jobs/{job}/run", headers={"Accept-Encoding": "gzip"})
            with packed as stream:
                size = sum(len(part) for part in stream.iter_raw())
            say("run page, compressed", size / 1000, 40, "kB")
            say("run page, elements", len(re.findall(r"<[a-z]", answer.text)), 8000, "")


def unlike_reader(
    client: httpx2.Client, job: int, cycle: int, piece: int, dimension: int
) -> Callable[[], None]:
    """Return the work of recording one reading in a cycle of eight unlike stations."""
    address = f"/jobs/{job}/run?cycle={cycle}"
    known = {"n": 0, "seen": SEEN.findall(client.get(address).text)[0]}

    def one() -> None:
        known["n"] += 1
        sent = {
            "kind": "take_reading",
            "piece": str(piece),
            "characteristic": str(dimension),
            "text": f"10.0{known['n'] % 30:02d}",
            "client_key": f"u{piece}-{known['n']}",
            "seen": known["seen"],
        }
        headers = {"HX-Request": "true", "HX-Current-URL": f"{client.base_url}{address}"}
        answer = client.post(f"/jobs/{job}/run/do", data=sent, headers=headers)
        assert answer.headers.get("hx-retarget") == "#board-top", answer.text[:300]
        known["seen"] = SEEN.findall(answer.text)[0]

    return one


def bench_unlike() -> None:
    """Eight unlike stations of four parts: a reading, the board and the strip, flat from 100 pieces to 1,000."""
    with ExitStack() as stack:
        works, boards = [], []
        for pieces in SIZES:
            folder = Path(stack.enter_context(tempfile.TemporaryDirectory()))
            desk, job, cycle = unlike_run(folder, pieces)
            with desk.runs.folded(desk.runs.require(job)) as state:
                piece = state.pieces[pieces - 6]
                dimension = state.gauged_in(state.setup_of(piece))[0].number
            desk.close()
            _, client = stack.enter_context(served(folder))
            works.append(unlike_reader(client, job, cycle, piece.number, dimension))
            boards.append(lambda c=client, a=f"/jobs/{job}/run?cycle={cycle}": c.get(a))
        taken: list[list[float]] = [[] for _ in works]
        drawn: list[list[float]] = [[] for _ in boards]
        for n in range(30 + ROUNDS):
            for found, work in zip(taken, works, strict=True):
                found.extend(timed(work, 1))
            for found, work in zip(drawn, boards, strict=True) if n % 5 == 0 else ():
                found.extend(timed(work, 1))
        for pieces, found, page in zip(SIZES, taken, drawn, strict=True):
            say(
                f"a reading at 8 unlike stations, advice and redraw, {pieces} pieces, p95",
                quantiles(found[30:], n=20)[-1],
                60,
                "ms",
            )
            say(f"run page of 8 unlike stations, {pieces} pieces, warm", median(page[6:]), 60, "ms")
        say(
            "a reading at 8 unlike stations, 1,000 against 100",
            median(taken[1][30:]) / median(taken[0][30:]),
            FLAT,
            "×",
        )
        say("its page, 1,000 against 100", median(drawn[1][6:]) / median(drawn[0][6:]), FLAT, "×")


MIXED_ROWS = "\n".join(
    f"{length} x {count} l{length}"
    for length, count in ((217, 7), (345, 8), (460, 7), (512, 8), (633, 8), (780, 7), (905, 8), (1187, 7))
)
SHEETS = {  # the longest entries of each kind of sheet
    "thread": {"thread": "1/4-20", "depth": "12", "room": "30"},
    "fit": {"nominal": "12", "hole": "12.006", "shaft": "11.95"},
    "profile": {"rows": "\n".join(f"{i} {i + 1} {20 + i / 10} R0.2" for i in range(390))},
    "pattern": {"count": "500", "diameter": "900"},
    "order": {
        "rows": "\n".join(f"op {i}; 1:00; 0:10; 20 min; m{i % 3}" for i in range(20)),
        "pieces": "1000",
    },
    "cuts": {"bar": "3000", "kerf": "3", "piece": "20", "pieces": "10000"},
    "mixed": {"rows": MIXED_ROWS, "stock": "3000\n1700 x 1 A7 offcut\n2000 x 4 short", "kerf": "3"},
    "blocks": {"sizes": " ".join(f"{20 + i * 0.737:.3f}" for i in range(200)), "set": "metric 88"},
    "segments": {"rows": "0 900 8", "bar_across": "12", "pass": "0.2", "reach": "36"},
}


def solved(client: httpx2.Client, job: int) -> None:
    """Have mixed lengths worked out that were never asked before, until the answer is there."""
    sent = SHEETS["mixed"] | {"kerf": f"3.{time.time_ns() % 10**6}"}
    while "Being worked out" in client.post(f"/jobs/{job}/sheets/mixed/answer", data=sent).text:
        pass


TYPED = (  # one of each form of docs/entries.md
    *("12", "1-1/4", "20 ±0.03", ".500 +.000/-.001", "12 H7", ".612 to .616", "six thou under five eighths"),
    *(
        "4x Ø6.5 THRU",
        '25.40 mm (1.000")',
        "45° ±30'",
        "1/4-20 UNC 2B",
        "M10x1.25 LH",
        "perpendicular 0.003 to A",
    ),
)


def bench_reader() -> None:
    """What is typed is read while it is typed; a long table is read row by row."""
    slowest = max(median(timed(lambda text=text: read_size(text, "mm"), 60)) for text in TYPED)
    say("the slowest form of an entry", slowest, 1, "ms")
    rows = [f"{n / 8:.3f} {n % 900} .{n % 7}5" for n in range(10_000)]
    spent = median(timed(lambda: [lengths_of(row, "mm", "rows") for row in rows], 3))
    say("10,000 rows of three figures", spent, 1500, "ms")


def bench_planning() -> None:
    """A changed field on Part and Method, and the draws behind a verdict."""
    ways = [starting_way(start.kind, i, (4200, 3800)) for i, start in enumerate(STARTS[:6])]
    draw(ways, "cost", 48)
    say("20,000 draws of six ways", median(timed(lambda: draw(ways, "cost", 48), 15)), 60, "ms")
    with tempfile.TemporaryDirectory() as name, served(Path(name)) as (app, client):
        desk = app.state.desk
        job = desk.jobs.new(
            apply_edit(AddWays(tuple(s.kind for s in STARTS[:6]), "42", "38"), planned_part(), NO_SHOP).plan,
            "RK",
        )
        for drawer in DRAWERS:
            desk.drawers.replace(drawer.name, drawer.standard())
        for kind, texts in SHEETS.items():
            address = f"/jobs/{job}/sheets/{kind}/answer"
            client.post(address, data=texts)
            if kind == "mixed":  # 60 pieces of 8 lengths: within 2 s
                taken = median(timed(lambda: solved(client, job), 5))
                say("a changed field on mixed, never asked before", taken, 2000, "ms")
            taken = median(timed(lambda a=address, t=texts: client.post(a, data=t), 25))
            say(f"a changed field on {kind}", taken, 120, "ms")
        way = {
            "kind": "set_way",
            "name": "tried",
            "key": "1",
            "cut": "3/4/6 min",
            "ready_what": "fixture",
            "ready_time": "2/3/5 h",
        }
        client.post(f"/jobs/{job}/method/try", data=way)
        say(
            "a changed field on a way, six ways",
            median(timed(lambda: client.post(f"/jobs/{job}/method/try", data=way), 15)),
            120,
            "ms",
        )
        for view in ("hold", "hold/sheet", "stock"):
            client.get(f"/jobs/{job}/{view}")
            say(f"{view} page", median(timed(lambda v=view: client.get(f"/jobs/{job}/{v}"), 15)), 120, "ms")
        say("method page, six ways", median(timed(lambda: client.get(f"/jobs/{job}/method"), 15)), 250, "ms")


def bench_part() -> None:
    """A part of 60 features drawn, six setups of pieces in and out, a changed height drawn and checked."""
    lines = many_features()
    say(
        "a feature line",
        median(timed(lambda: [read_feature(line, "block", "mm") for line in lines], 15)) / len(lines),
        2,
        "ms",
    )
    plan = featured_plan()
    shaped = shape_part(plan.described, "block")
    raw = raw_of(shaped, None)
    assert raw is not None

    def in_and_out() -> None:
        for piece in pieces_in(shaped, raw, plan.features, plan.setups):
            piece.before.volume(), piece.after.volume()

    say("six setups of pieces in and out, with their volumes", median(timed(in_and_out, 15)), 150, "ms")
    heights = iter(range(1, 10_000))

    def changed() -> None:
        high = Decimal(next(heights)) / 1000
        setups = tuple(replace(s, held=replace(s.held, parallels_mm=17 + high)) for s in plan.setups)
        for one in contacts_of(replace(plan, setups=setups), None, {}):
            draw_held(HeldPicture(one, "mm"))

    say("a changed height checked and drawn, six setups", median(timed(changed, 15)), 80, "ms")
    with tempfile.TemporaryDirectory() as name, served(Path(name)) as (app, client):
        job = app.state.desk.jobs.new(plan, "RK")
        client.get(f"/jobs/{job}/part/features")
        say(
            "part page with 60 features",
            median(timed(lambda: client.get(f"/jobs/{job}/part/features"), 15)),
            80,
            "ms",
        )
        typed = {"line": "bore 14 through, in the middle, top"}
        say(
            "a typed feature read and drawn",
            median(timed(lambda: client.get(f"/jobs/{job}/part/feature", params=typed), 15)),
            80,
            "ms",
        )
        client.get(f"/jobs/{job}/hold")
        say(
            "hold page with six setups drawn",
            median(timed(lambda: client.get(f"/jobs/{job}/hold"), 15)),
            250,
            "ms",
        )


def bench_questions() -> None:
    """Front pages of the steps over the demo, and figures changed there."""
    with tempfile.TemporaryDirectory() as name, served(Path(name)) as (app, client):
        add_demo_jobs(app.state.desk)
        bench_fronts(app.state.desk, client, timed, say)


TABLE = {
    "table_x": "2000",
    "table_y": "900",
    "slots": "7",
    "slot_first": "100",
    "slot_pitch": "110",
    "slot_width": "18",
    "reach_from": "0,0",
    "home": "right back",
    "nose": "700",
    "keep_outs": "column cover: 0,920 2000,980\ndoor: 1990,0 2100,400",
}
ROW = {
    "kind": "fixture plate",
    "shape": "any",
    "low": "0",
    "high": "150",
    "marks": "none",
    "tall": "60",
    "seat": "40",
}
PALLET = ROW | {
    "name": "Pallet",
    "body_x": "220",
    "body_y": "220",
    "nests": "rows 5 x 5 at 42,42 from 26,26",
    "handle_at": "110,-10",
    "handle_swing": "20",
}
VISE = ROW | {
    "name": "Vise",
    "body_x": "100",
    "body_y": "200",
    "jaw_width": "100",
    "jaw_at": "30",
    "handle_at": "50,-10",
    "handle_swing": "20",
}


def bench_place() -> None:
    """A holder moved on a table of 12 holders and 200 nests: saved, checked again, drawn again."""
    with tempfile.TemporaryDirectory() as name, served(Path(name)) as (app, client):
        desk = app.state.desk
        ability = Ability(travel_x_mm=Decimal(2000), travel_y_mm=Decimal(900), travel_z_mm=Decimal(500))
        bed = read_bed(Entries(TABLE, "mm", LABELS), (Decimal(2000), Decimal(900), Decimal(500)))
        number = desk.shop.save_machine(
            Machine(0, "Mill", "mill", read_codes("G54-G59, G54.1 P1-P48"), ability=ability, bed=bed)
        )
        desk.drawers.replace("holders", [PALLET, VISE])
        plan, shop = planned_part(), desk.jobs.registers()
        edits = (
            SetSetup("all", number, "pallets"),
            SetLayout(1, "30", "30", "20", cutter="10", longest="200", shortest="90"),
            *(PlaceHolder(1, "Pallet", left=str(20 + 240 * n), front="140") for n in range(8)),
            *(PlaceHolder(1, "Vise", left=str(20 + 240 * n), front="500") for n in range(4)),
        )
        for one in edits:
            plan = apply_edit(one, plan, shop).plan
        job, key = desk.jobs.new(plan, "RK"), plan.placed[3].key
        print(f"       {len(plan.placed)} holders, {sum(len(p.body.nests) for p in plan.placed)} nests")
        at = {"left": 740.0}

        def move() -> None:
            at["left"] = 741.0 if at["left"] == 740.0 else 740.0
            sent = {
                "kind": "move_placed",
                "key": key,
                "left": f"{at['left']} mm",
                "version": desk.jobs.load(job).version,
                "step": "place",
                "view_setup": 1,
            }
            moved = client.post(
                f"/jobs/{job}/plan", data=sent, headers={"HX-Request": "true"}, follow_redirects=True
            )
            assert moved.status_code == 200, moved.text[:300]

        move()
        say("a holder moved among 12 with 200 nests, checked and redrawn", median(timed(move, 25)), 100, "ms")


def bench_stock_and_hold() -> None:
    """Block stacks for 1,000 random sizes, and how many named cutting-stock instances are proven."""
    chance = Random(1)
    sizes = [(chance.randint(5000, 99_999) * SETS["inch 81"].step, "inch 81") for _ in range(500)]
    sizes += [(chance.randint(10_000, 390_000) * SETS["metric 88"].step, "metric 88") for _ in range(500)]
    stack(*sizes[0])
    started = time.perf_counter()
    exact = all(sum(stack(size, name)) == size for size, name in sizes)
    say(
        "1,000 block stacks, all exact" if exact else "1,000 block stacks, NOT all exact",
        time.perf_counter() - started,
        1 if exact else 0,
        "s",
    )
    proven = 0
    for name, (wanted, stock, kerf, optimum) in INSTANCES.items():
        started = time.perf_counter()
        found = nest(wanted, stock, kerf)
        right = found.status == "proven" and found.new_bars == optimum
        proven += right
        print(
            f"       {name}: {found.new_bars} bars, {found.status}, known {optimum}, {time.perf_counter() - started:.2f} s"
        )
    print(
        f"       proven: {proven} of {len(INSTANCES)} named cutting-stock instances, {proven / len(INSTANCES):.0%}"
    )
    say("named cutting-stock instances not proven", len(INSTANCES) - proven, 3, "")


def whole_bars(
    seed: int, bars: int, bar: int, kerf: int
) -> tuple[list[WantedLength], list[Stock], float, int]:
    """Return an instance of known optimum: whole bars cut up without waste."""
    chance, lengths = Random(seed), Counter()
    choice = [chance.randint(150, 900) for _ in range(6)]
    for _ in range(bars):
        left = bar + kerf
        while left > 0:
            piece = chance.choice(choice)
            if piece + kerf > left - 153:
                piece = left - kerf
            lengths[piece] += 1
            left -= piece + kerf
    return [WantedLength(str(n), n, count) for n, count in lengths.items()], [Stock("bar", bar)], kerf, bars


ROLLS = [
    WantedLength("45", 45, 97),
    WantedLength("36", 36, 610),
    WantedLength("31", 31, 395),
    WantedLength("14", 14, 211),
]
INSTANCES = {"rolls of 100, 1,313 pieces": (ROLLS, [Stock("roll", 100)], 0.0, 453)} | {
    f"whole bars {seed}": whole_bars(seed, 4 + seed, 3000, 3) for seed in range(1, 9)
}


def planned_part() -> Plan:
    """Return a plan of one part."""
    return Plan(Heading("Bench block", 48, "mm"))


@contextmanager
def listening(base: str, job: int, heard: Counter[int], devices: int) -> Iterator[None]:
    """Keep a stream of a run open on so many devices; each draws its board again after a line, and counts what it heard."""
    stop = Event()

    def listen(device: int) -> None:
        layout = {"layout": "tall"} if device % 2 else {}
        with (
            suppress(httpx2.TransportError),  # the server ends first
            httpx2.Client(base_url=base, cookies=COOKIES | layout, timeout=60) as own,
            httpx2.Client(base_url=base, cookies=COOKIES | layout, timeout=60) as other,
            own.stream("GET", f"/jobs/{job}/run/stream") as stream,
        ):
            for line in stream.iter_lines():
                if line.startswith("event: line"):
                    heard[device] += 1
                    answer = other.get(
                        f"/jobs/{job}/run", headers={"HX-Request": "true", "HX-Target": "board"}
                    )
                    assert answer.status_code == 200
                    time.sleep(0.3)  # as the page does
                if stop.is_set():
                    return

    for number in range(devices):
        Thread(target=listen, args=(number,), daemon=True).start()
    time.sleep(1)
    yield
    stop.set()


def bench_many() -> None:
    """Twenty devices with an open stream on one run, each drawing what it hears of, at ten lines a second."""
    with watching(100) as (process, client, job, run):
        heard: Counter[int] = Counter()
        with listening(str(client.base_url), job, heard, 20):
            before, started = cpu_ms(process), time.perf_counter()
            taken = [noted(client, run, number) for number in range(100)]
            lasted = 1000 * (time.perf_counter() - started)
            print(f"       the server took {100 * (cpu_ms(process) - before) / lasted:.0f} % of a core")
            time.sleep(0.3)
            noted(client, run, 100)
        say("a line among 20 open streams, 10 a second, p95", quantiles(taken, n=20)[-1], 100, "ms")
        lines = client.get(f"/api/v1/runs/{run}/events").json()
        kept = sum(line["body"]["kind"] == "note" for line in lines)
        say("lines lost of 101", 101 - kept, 0, "")
        say("streams that heard nothing", sum(heard[n] < 2 for n in range(20)), 0, "")


def bench_six() -> None:
    """Six clients adjust one offset at the same time, over HTTP; the log and the register say the same at the end."""
    with tempfile.TemporaryDirectory() as name, served(Path(name)) as (app, client):
        desk, _, run = big_run(Path(name), 100)
        machine = desk.shop.machine(1)
        desk.offsets.write(machine, [OffsetChange("G54", {"z": Decimal(-300)})], "RK")
        before = len(desk.runs.events(run))

        def work(hand: int) -> None:
            with httpx2.Client(base_url=str(client.base_url), cookies=COOKIES, timeout=60) as own:
                for n in range(30):
                    command = {"kind": "adjust", "what": "G54 Z", "amount": "0.01"}
                    sent = {"client_key": f"six-{hand}-{n}", "command": command}
                    answer = own.post(f"/api/v1/runs/{run}/commands", json=sent)
                    assert answer.status_code == 200, answer.text

        hands = [Thread(target=work, args=(hand,)) for hand in range(6)]
        for hand in hands:
            hand.start()
        for hand in hands:
            hand.join()
        served_desk = app.state.desk
        stands = served_desk.offsets.of(1)["G54"].axes["z"]
        say("moves of 180 by six hands that the register lost", abs(stands - Decimal("-298.2")) * 100, 0, "")
        say(
            "lines of 180 by six hands that are lost",
            180 - (len(served_desk.runs.events(run)) - before),
            0,
            "",
        )


def noted(client: httpx2.Client, run: int, number: int) -> float:
    """Record a note and wait until a tenth of a second is over. Returns how long recording took, [ms]."""
    started = time.perf_counter()
    sent = {"client_key": f"m{number}", "command": {"kind": "add_note", "text": f"note {number}"}}
    assert client.post(f"/api/v1/runs/{run}/commands", json=sent).status_code == 200
    taken = time.perf_counter() - started
    time.sleep(max(0.0, 0.1 - taken))
    return taken * 1000


def bench_busy() -> None:
    """A server under long work: how long /healthz takes, its event loop stands still, and the database is held."""
    with watching(1000) as (process, client, job, run):
        bundle = client.get(f"/jobs/{job}/close/job.json").content
        backup = client.get("/backup").content
        for what, work in busy_work(job, run, bundle, backup).items():
            work(client)  # what is loaded when first asked for, is
            told(process)
            taken = beside(str(client.base_url), lambda w=work: w(client))
            found = told(process)
            say(f"/healthz while {what}, p99 of {len(taken)}", quantiles(taken, n=100)[-1], 50, "ms")
            say(f"longest stretch of the event loop while {what}", found["loop"], 20, "ms")
            say(f"longest hold of the database while {what}", found["lock"], 20, "ms")


def busy_work(job: int, run: int, bundle: bytes, backup: bytes) -> dict[str, Callable[[httpx2.Client], None]]:
    """Return what a server is kept busy with, by name."""

    def sheets(client: httpx2.Client) -> None:
        for _ in range(3):
            solved(client, job)

    def bring_in(client: httpx2.Client) -> None:
        answer = client.post("/jobs/import", files={"file": ("job.json", bundle)})
        assert answer.status_code == 303, answer.text[:300]

    def restore(client: httpx2.Client) -> None:
        answer = client.post("/restore", files={"file": ("shop.backup", backup)})
        assert answer.status_code == 303, answer.text[:300]

    def pages(client: httpx2.Client) -> None:
        for page in ("part", "method", "stock", "hold", "place", "tools", "run", "close", "open"):
            assert client.get(f"/jobs/{job}/{page}").status_code == 200
        assert client.get(f"/jobs/{job}/close/readings.xlsx").status_code == 200

    def lines(client: httpx2.Client) -> None:
        for n in range(40):
            sent = {
                "client_key": f"{time.time_ns()}{n}",
                "command": {"kind": "add_note", "text": f"note {n}"},
            }
            assert client.post(f"/api/v1/runs/{run}/commands", json=sent).status_code == 200

    text, _ = pocket(100_000)

    def program(client: httpx2.Client) -> None:
        answer = client.post("/api/v1/program/read", json={"text": text, "given": {}})
        assert answer.status_code == 200, answer.text[:300]

    return {
        "a program of 100,000 lines is read": program,
        "sheets are solved": sheets,
        "a bundle comes in": bring_in,
        "a backup is restored": restore,
        "pages and a workbook are drawn": pages,
        "lines are recorded": lines,
    }


@contextmanager
def watching(pieces: int) -> Iterator[tuple[subprocess.Popen[str], httpx2.Client, int, int]]:
    """Serve a shop with one run in a process that watches itself. Gives it, a client, the job and the run."""
    with tempfile.TemporaryDirectory() as name:
        desk, job, run = big_run(Path(name), pieces)
        desk.close()
        command = [sys.executable, "-m", "bench.watched", name]
        process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
        with httpx2.Client(base_url=address_of(process), cookies=COOKIES, timeout=60) as client:
            yield process, client, job, run
        process.terminate()
        process.wait()


def told(process: subprocess.Popen[str]) -> dict[str, float]:
    """Return what a watched server noted since it was last asked."""
    process.stdin.write("tell\n")  # type: ignore[union-attr]
    process.stdin.flush()  # type: ignore[union-attr]
    found: dict[str, float] = json.loads(process.stdout.readline())  # type: ignore[union-attr]
    return found


def beside(address: str, work: Callable[[], None]) -> list[float]:
    """Return how long each /healthz took while some work was done, [ms]."""
    done = Event()

    def until_done() -> None:
        work()
        done.set()

    worker = Thread(target=until_done)
    worker.start()
    taken: list[float] = []
    with httpx2.Client(base_url=address, timeout=60) as client:
        while not done.is_set() or len(taken) < 2:
            taken += timed(lambda: client.get("/healthz"), 1)
            time.sleep(0.005)
    worker.join()
    return taken


def bench_mixed_pages() -> None:
    """Every page of a job with 60 pieces of mixed lengths, six ways and three setups, a second time."""
    with tempfile.TemporaryDirectory() as name, served(Path(name)) as (app, client):
        _, job, _ = big_run(Path(name), 100)
        desk = app.state.desk
        for edit in (
            KeepSheet("mixed", SHEETS["mixed"]),
            AddWays(tuple(start.kind for start in STARTS[:6]), "42", "38"),
            SetSetup("second side", 1, "vise", "stop", "30"),
            SetSetup("third side", 1, "vise", "stop", "30"),
        ):
            desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)
        while not desk.worked_out(desk.jobs.load(job)).is_whole:
            time.sleep(0.1)
        slowest = 0.0
        for page in (
            "part",
            "method",
            "stock",
            "stock/mixed",
            "hold",
            "place",
            "tools",
            "run",
            "close",
            "open",
        ):
            address = f"/jobs/{job}/{page}"
            assert client.get(address, timeout=60).status_code == 200
            slowest = max(slowest, median(timed(lambda a=address: client.get(a), 7)))
        say("slowest page of a job with 60 mixed lengths, six ways, three setups, warm", slowest, 100, "ms")


def bench_kills() -> None:
    """Two hundred kills: nothing lost or doubled, no register apart from its log, no shop that does not start."""
    wrong, tried = [], 0
    while tried < KILLS:
        for kind in KINDS:
            with tempfile.TemporaryDirectory() as name:
                found = kill_once(kind, Path(name) / "shop", tried)
            tried += 1
            wrong += [f"{kind}: {what}" for what in found]
    for what in wrong:
        print(f"       {what}")
    say(f"kills of {tried} that left something wrong", len(wrong), 0, "")


def started_s(command: list[str], wait: Callable[[subprocess.Popen[str]], None]) -> float:
    """Return how long a process takes until it answers, [s]."""
    started = time.perf_counter()
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
    wait(process)
    taken = time.perf_counter() - started
    process.terminate()
    process.wait()
    return taken


BARE = (
    "import fastapi, uvicorn, sqlalchemy, jinja2, socket\n"
    "app = fastapi.FastAPI()\n"
    "app.add_api_route('/healthz', lambda: {})\n"
    "s = socket.socket(); s.bind(('127.0.0.1', 0)); s.listen()\n"
    "print(f'http://127.0.0.1:{s.getsockname()[1]}', flush=True)\n"
    "uvicorn.Server(uvicorn.Config(app, log_level='error')).run(sockets=[s])"
)


def address_of(process: subprocess.Popen[str]) -> str:
    """Return where a started server says it is."""
    lines = iter(process.stdout.readline, "")  # type: ignore[union-attr]
    return next(line.strip() for line in lines if line.startswith("http"))


def cpu_ms(process: subprocess.Popen[str]) -> float:
    """Return the processor time a process has taken so far, [ms]."""
    found = Path(f"/proc/{process.pid}/stat").read_text().rsplit(")", 1)[1].split()
    return 1000 * (int(found[11]) + int(found[12])) / os.sysconf("SC_CLK_TCK")


def bench_first_page() -> None:
    """The first page of a Run with 1,000 pieces × 6, of a server that has been up for a few seconds."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        _, job, _ = big_run(folder, 1000)
        for _ in range(3):
            command = [sys.executable, "-m", "ditto_run", "--data", str(folder), "serve", "--port", "8490"]
            process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
            address = address_of(process)
            time.sleep(6)  # a second, and then what it gets ready
            before = cpu_ms(process)
            assert "Bench block" in httpx2.get(f"{address}/jobs/{job}/run", cookies=COOKIES).text
            say("first run page, 1,000 × 6, processor time", cpu_ms(process) - before, 150, "ms")
            process.terminate()
            process.wait()


def answering(process: subprocess.Popen[str]) -> None:
    """Wait until a started server answers."""
    address = address_of(process)
    while True:
        try:
            httpx2.get(f"{address}/healthz")
        except httpx2.ConnectError:
            time.sleep(0.02)
        else:
            return


def bench_start() -> None:
    """From the command to the first answer, with a database present, against an empty application of the same parts."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        big_run(folder, 100)
        ours = [sys.executable, "-m", "ditto_run", "--data", str(folder), "serve", "--port", "8490"]
        bare = [sys.executable, "-c", BARE]
        pairs = [(started_s(ours, answering), started_s(bare, answering)) for _ in range(5)]
        mine, floor = median(pair[0] for pair in pairs), median(pair[1] for pair in pairs)
        print(f"       start {mine:.2f} s, an empty application {floor:.2f} s")
        say("server start with a database present, in floors", mine / floor, 1.7, "×")


if __name__ == "__main__":
    bench_recording()
    bench_page()
    bench_unlike()
    bench_first_page()
    bench_reader()
    bench_planning()
    bench_part()
    bench_questions()
    bench_stock_and_hold()
    bench_place()
    bench_weave(say)
    bench_program(say)
    bench_close(say, served)
    bench_propose(say)
    bench_start()
    bench_many()
    bench_six()
    bench_busy()
    bench_mixed_pages()
    bench_kills()
    print("all figures hold" if not failed else f"missed: {', '.join(failed)}")
    sys.exit(bool(failed))
