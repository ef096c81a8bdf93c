"""The jobs of the demo, and the shop they are made in."""

from dataclasses import replace
from datetime import date, datetime, timedelta
from decimal import Decimal

from ditto_run.core.edits import (
    ChooseWay,
    KeepSheet,
    PlaceHolder,
    SetCharacteristic,
    SetFeature,
    SetFeatureLine,
    SetFinish,
    SetForm,
    SetHeading,
    SetKitPart,
    SetLayout,
    SetOrder,
    SetSetup,
    SetStation,
    SetStockSize,
    SetToolStep,
    SetWay,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as do
from ditto_run.core.shop import Gauge
from ditto_run.demo.pretend import Hand
from ditto_run.demo.registers import add_machines, fill_drawers, set_offsets
from ditto_run.demo.together import bushing, stay_bracket
from ditto_run.desk import Desk

BORE, SLOT, DEPTH, HEIGHT = 1, 2, 3, 4
CLUB, BOATS = "Heron Reach Rowing", "Sedge Island Boats"
LOAD_S, CYCLE_S = 699.0, 564.0  # the clamp block's load to load and cycle, see its tool steps


def make_demo_shop(desk: Desk) -> None:
    """Fill an empty shop with registers and the demo jobs."""
    if not desk.shop.load().is_new:
        return
    desk.shop.save_setting("unit", "mm")
    desk.shop.save_setting("name", "The rigging shop")
    for initials in ("RK", "MT"):
        desk.shop.save_person(initials)
    add_demo_jobs(desk)


def add_demo_jobs(desk: Desk) -> None:
    """Add the demo jobs and the machines and gauges they need."""
    mill, lathe, hand = add_machines(desk)
    fill_drawers(desk)
    for name, step, unit in (
        ("Micrometer 0–25", "0.001", "mm"),
        ("Bore gauge 12", "0.001", "mm"),
        ("Height gauge", "0.001", "mm"),
        ("Caliper", "0.01", "mm"),
        ("Micrometer 0–1 in", "0.0001", "in"),
    ):
        desk.shop.save_gauge(Gauge(0, name, Decimal(step), unit))  # type: ignore[arg-type]
    gauges = {gauge.name: gauge.id for gauge in desk.shop.load().gauges.values()}
    mills = {machine.name: machine.id for machine in desk.shop.load().machines.values()}
    stay_bracket(desk, mills["Mill 5"], CLUB)
    bushing(desk, (lathe, hand), BOATS)
    _gate_spacer(desk, hand)
    _stretcher_plate(desk, mill, gauges)
    _oarlock_pin(desk, lathe, gauges)
    _clamp_block(desk, mill, gauges)


def _new_job(hand: Hand, heading: Heading) -> int:
    return hand.jobs.new(Plan(heading), hand.who, is_demo=True)


def _tools(setup: int, *steps: tuple[int, str, int, int, *tuple[int, ...]]) -> list[SetToolStep]:
    """Tool steps: T number, what it does, cutting and changing in seconds, keys of the features it makes."""
    return [
        SetToolStep(setup, tool, does, str(cut), str(change), makes=makes)
        for tool, does, cut, change, *keys in steps
        for makes in [tuple(keys)]
    ]


def _clamp_block(desk: Desk, mill: int, gauges: dict[str, int]) -> None:
    """Plan and run the clamp block: 31 of 48 made at three stations, C drifting, one piece held at B."""
    now = desk.now
    hand = Hand(desk, "RK", now - timedelta(seconds=8170), seed=48)
    job = _new_job(
        hand,
        Heading(
            "Rigger clamp block",
            48,
            "mm",
            CLUB,
            "RCB-20",
            "C",
            "6061-T6",
            now.date() + timedelta(days=9),
            gauge_every=2,
        ),
    )
    hand.plan(
        job,
        SetCharacteristic(
            "bore", "12 H7", "critical", gauges["Bore gauge 12"], "Mates with the oarlock pin."
        ),
        SetCharacteristic(
            "slot", "20.00 ±0.03", "critical", gauges["Micrometer 0–25"], "Slides on the rigger tube."
        ),
        SetCharacteristic("depth", "12.00 ±0.05", "functional", gauges["Height gauge"], "Seats the tube."),
        SetCharacteristic("height", "31.50 ±0.05", "functional", gauges["Height gauge"], "Clears the cap."),
        SetFeatureLine("outside: block 60 x 40"),
        SetFeatureLine("top face: face, top"),
        SetFeatureLine("slot 20.00 ±0.03 x 12 deep x 28 long, R5, in the middle, open right, top"),
        SetFeatureLine("bore 12 H7 through, 16 from left, in the middle, top"),
        SetFeature("slot floor", "top", "pocket", ("top",), characteristic=DEPTH),
        SetFeatureLine("bottom face: face 31.50 ±0.05 high, bottom"),
        SetFeatureLine("edges: broken edge 0.3"),
    )
    made = {feature.name: feature.key for feature in hand.jobs.load(job).plan.features}
    slot = hand.jobs.load(job).plan.feature(made["slot"])
    hand.plan(
        job,
        SetFeature(
            slot.name, slot.face, slot.kind, slot.refers, one_sided=True, characteristic=SLOT, key=slot.key
        ),
    )
    hand.plan(
        job,
        SetSetup(
            "first side",
            mill,
            "three vises, hard jaws",
            "fixed jaw, parallels, left stop",
            "0:45",
            locates_on=("bottom", "back", "left"),
            clamps_on=("front", "back"),
            cuts=(made["top face"], made["slot"], made["slot floor"], made["bore"]),
            stop="left, on the vise, relieved at the corner; set against a clean blank",
            torque="60 N·m",
            parallels="17",
            to_stop="left",
        ),
    )
    first = hand.jobs.load(job).plan.setups[0].key
    hand.plan(
        job,
        SetLayout(first, "63", "40", "34.5", cutter="20", longest="150", shortest="70"),
        *(PlaceHolder(first, f"Vise {n}", left=str(71.5 + 160 * (n - 1)), front="66") for n in (1, 2, 3)),
        *_tools(
            first,
            (1, "face mill", 18, 24, made["top face"]),
            (2, "rough", 41, 24, made["slot"], made["slot floor"]),
            (3, "finish slot", 26, 24, made["slot"], made["slot floor"]),
            (4, "spot", 6, 24, made["bore"]),
            (5, "drill", 14, 24, made["bore"]),
            (6, "ream", 12, 24, made["bore"]),
            (7, "chamfer", 15, 24),
        ),
        SetSetup(
            "second side",
            mill,
            "pallet P, four nests",
            "expanding pin in the bore, flat",
            "0:10",
            locates_on=("top", "bore", "slot"),
            clamps_on=("bore",),
            cuts=(made["bottom face"], made["outside"], made["edges"]),
            proof="the nest's key fits the slot one way only",
            stop="bore pin and flat of each nest",
            torque="12 N·m",
        ),
    )
    second = hand.jobs.load(job).plan.setups[1].key
    hand.plan(
        job,
        SetLayout(second, "60", "40", "33", cutter="20", longest="150", shortest="70"),
        PlaceHolder(second, "Pallet P", left="532", front="112"),
        *_tools(second, (1, "face to height", 20, 24), (7, "chamfer", 10, 24)),
    )
    set_offsets(desk, mill, now)
    _ways_of_clamp_block(hand, job)
    hand.start(job)
    _run_clamp_block(hand, now)


def _ways_of_clamp_block(hand: Hand, job: int) -> None:
    """Compare three ways of making the clamp block, and choose one."""
    usual = SetWay(
        "",
        load="0:30",
        unload="0:15",
        deburr="0:50",
        gauge="0:30",
        labour="42.00",
        machine="38.00",
        material="2.10",
        trials="1",
    )
    one = replace(
        usual,
        name="one at a time",
        way_kind="cnc",
        ready_what=("setting up", "programming"),
        ready_time=("25/30/45 min", "15/20/30 min"),
        ready_lasting=("no", "yes"),
        cut="4/4:18/5 min",
        per_load="1:10",
        locate="0:05",
    )
    three = replace(
        usual,
        name="three vises, then pallet",
        way_kind="several-up",
        ready_what=("setting up", "programming", "jaws"),
        ready_time=("40/55/80 min", "30/40/60 min", "20/30/45 min"),
        ready_money=("", "", "18.00"),
        ready_lasting=("no", "yes", "yes"),
        cut="2:40/2:50/3:20",
        per_load="2:48",
        pieces_per_load="3",
        attended="start and stop",
    )
    eight = replace(
        usual,
        name="eight-up plate",
        way_kind="fixture",
        ready_what=("fixture", "programming", "setting up"),
        ready_time=("3/4/6 h", "40/60/90 min", "20/30/45 min"),
        ready_money=("85.00", "", ""),
        ready_lasting=("yes", "yes", "no"),
        trials="2",
        cut="2:30/2:40/3:10",
        per_load="3:20",
        pieces_per_load="8",
        attended="start and stop",
    )
    hand.plan(
        job,
        one,
        three,
        eight,
        KeepSheet(
            "fit", {"nominal": "12", "classes": "H7/g6", "hole": "12.007", "shaft": "11.93"}, "bore and pin"
        ),
        KeepSheet("order", {"lot": "4"}, "two setups"),
        KeepSheet(
            "blank",
            {
                "shape": "block",
                "length": "60",
                "width": "40",
                "height": "31.5",
                "facing": "1.5",
                "skin": "1.5",
            },
        ),
        KeepSheet("starts", {"scrap": "2", "confidence": "90"}),
        KeepSheet("cuts", {"bar": "3000", "kerf": "2", "how": "saw", "remnant": "60"}),
        SetOrder(
            "flat 45 × 35, 6061-T6",
            "Quay Metals",
            2,
            "3 m",
            "96.00",
            came=True,
            grade="6061-T6",
            grade_came="6061-T6",
            heat="H-20688",
        ),
    )
    chosen = hand.jobs.load(job).plan.ways[1].key
    hand.plan(
        job, ChooseWay(chosen, "Three vises stand on the mill anyway, and the pallet serves the next batch.")
    )


def _run_clamp_block(hand: Hand, now: datetime) -> None:
    hand.do(do.SetComposition({"A": 1, "B": 0, "C": 0}))
    (one,) = hand.load(270, 240)
    _gauge_block(hand, one, 0, "A")
    hand.do(do.AcceptMaster(one), do.SetComposition({"A": 1, "B": 1, "C": 1}))
    for number in range(2, 12):
        pieces = hand.load(CYCLE_S, LOAD_S - CYCLE_S)
        if number == 4:  # noqa: PLR2004 - the story's own load
            hand.do(
                do.Adjust("G56 Z", "-0.0008", "in", "C"),
                do.AddNote("C sat on a chip at the parallel, cleaned and re-zeroed."),
            )
        if number % 2:
            for piece, station in zip(pieces, "ABC", strict=True):
                last = number == 11 and station == "C"  # noqa: PLR2004
                _gauge_block(hand, piece, number, station, only_bore=last)
        if number == 9:  # noqa: PLR2004
            _check_around(hand)
        if number == 10:  # noqa: PLR2004
            hand.gauge(pieces[1], (DEPTH, hand.size(11.989, 0.003)))
    hand.at = now - timedelta(seconds=348)
    hand.do(do.StartCycle())


LOW_PIECE_LOAD = 9


def _gauge_block(hand: Hand, piece: int, load: int, station: str, *, only_bore: bool = False) -> None:
    """Gauge one clamp block: C's slot falls a little each load, and B's depth is low once."""
    at = "ABC".index(station)
    hand.gauge(piece, (BORE, hand.size(12.007, 0.0012)))
    if only_bore:
        return
    drift = -0.0022 * load if station == "C" else -0.0004 * load
    hand.gauge(piece, (SLOT, hand.size(20.004 + drift - 0.002 * at, 0.0012)))
    low = load == LOW_PIECE_LOAD and station == "B"
    hand.gauge(piece, (DEPTH, "11.938" if low else hand.size(12.002 - 0.006 * at, 0.003)))
    hand.wait(14)


def _check_around(hand: Hand) -> None:
    """Gauge the piece before the low one at the same vise: the containment ends there."""
    with hand.runs.folded(hand.run_id) as state:
        before = state.here.at_station["B"][-2][1]
    hand.gauge(before, (DEPTH, hand.size(11.988, 0.002)))


def _oarlock_pin(desk: Desk, lathe: int, gauges: dict[str, int]) -> None:
    """Plan and run the oarlock pin: 37 of 60 made from bar, one wear change, a new bar, rising again."""
    now = desk.now
    hand = Hand(desk, "MT", now - timedelta(seconds=5660), seed=60)
    job = _new_job(
        hand,
        Heading(
            "Oarlock pin",
            60,
            "mm",
            BOATS,
            "OP-12",
            "B",
            "316 stainless, 12 mm bar",
            now.date() + timedelta(days=4),
            gauge_every=3,
        ),
    )
    hand.plan(
        job,
        SetCharacteristic(
            "shank",
            "11.95 0/-0.04",
            "critical",
            gauges["Micrometer 0–25"],
            "Turns in the clamp block's bore.",
        ),
        SetCharacteristic("length", "86 ±0.1", "functional", gauges["Caliper"]),
        SetCharacteristic("thread", "M10", "critical", None, "Takes the gate nut."),
        SetForm("turned", "allowed", "forbidden"),
        SetFeatureLine("end: face, free end"),
        SetFeatureLine("shank: shoulder 11.95 0/-0.04 x 66 at 20"),
        SetFeatureLine("groove 2 wide to Ø8 at 18"),
        SetFeatureLine("thread: outside thread M10 x 18 long, free end"),
        SetFeatureLine("chamfer 1, free end"),
        SetFeatureLine("part off 86 ±0.1"),
    )
    made = {feature.name: feature.key for feature in hand.jobs.load(job).plan.features}
    hand.plan(
        job,
        SetSetup(
            "complete",
            lathe,
            "12 mm collet",
            "bar stop at 89.5 mm a piece",
            "0:20",
            locates_on=("bar",),
            clamps_on=("bar",),
            cuts=tuple(made.values()),
            stop="turret stop, gap checked after closing",
            torque="collet closer, second mark",
        ),
    )
    key = hand.jobs.load(job).plan.setups[0].key
    hand.plan(
        job,
        SetStation(key, "L", "collet", "G54"),
        *_tools(
            key,
            (1, "face and turn", 62, 4, made["end"], made["shank"], made["chamfer"]),
            (3, "groove", 11, 4, made["groove"]),
            (5, "thread", 24, 4, made["thread"]),
            (7, "part off", 18, 4, made["part off"]),
        ),
        SetStockSize("bar", "12", "11.98"),
        KeepSheet("blank", {"shape": "bar", "length": "86", "across": "11.95", "facing": "0.5"}),
        KeepSheet("starts", {"scrap": "3", "confidence": "90", "trials": "2"}),
        KeepSheet(
            "cuts",
            {
                "bar": "3000",
                "kerf": "2.5",
                "remnant": "60",
                "facing": "1",
                "clear": "6",
                "rear": "350",
                "rpm": "1800",
            },
        ),
        KeepSheet(
            "ladder",
            {"edge": "chuck side", "count": "1", "repeat": "0.02", "tolerance": "0.2"},
            "part off, complete",
        ),
        SetOrder(
            "12 mm bar 316",
            "Quay Metals",
            3,
            "3 m",
            "126.00",
            came=True,
            grade="316",
            grade_came="316",
            heat="H-20714",
        ),
        KeepSheet("thread", {"thread": "M10 6g", "side": "external"}, "gate nut thread"),
    )
    bar = hand.jobs.load(job).plan.stock[0].key
    hand.plan(
        job,
        KeepSheet(
            "profile",
            {"rows": "0 18 9.85 R0.4\n18 20 8 groove\n20 84 11.95 R0.4\n84 86 11.95", "bar": str(bar)},
            "pin",
        ),
    )
    hand.start(job)
    for number in range(1, 38):
        (piece,) = hand.load(131, 20)
        since = number - 20 if number >= 20 else number  # noqa: PLR2004 - the wear change comes before piece 20
        if number == 19:  # noqa: PLR2004
            hand.do(do.Adjust("T01 diameter wear", "-0.010", "mm"))
        if number == 32:  # noqa: PLR2004
            hand.do(do.MarkBreak("bar 2"))
        if (number - 1) % 3 == 0 or number in {20, 33}:
            hand.gauge(
                piece, (1, hand.size(11.9285 + 0.0005 * since, 0.0007)), (2, hand.size(86.01, 0.015, 2))
            )
            hand.do(do.TakeGo(piece, 3, go=True))
        if number == 1:
            hand.do(do.AcceptMaster(piece))
    hand.at = now - timedelta(seconds=47)
    hand.do(do.StartCycle())


def _stretcher_plate(desk: Desk, mill: int, gauges: dict[str, int]) -> None:
    """Plan, run and close an inch job: 24 plates, one scrapped, one accepted as it is."""
    now = desk.now
    hand = Hand(desk, "RK", now - timedelta(days=6), seed=24)
    job = _new_job(
        hand,
        Heading(
            "Foot stretcher plate",
            24,
            "in",
            CLUB,
            "FSP-3",
            "A",
            "5083 plate",
            now.date() - timedelta(days=5),
            gauge_every=1,
        ),
    )
    hand.plan(
        job,
        SetCharacteristic(
            "tenon", ".500 +.000/-.001", "critical", gauges["Micrometer 0–1 in"], "Fits the stretcher rail."
        ),
        SetCharacteristic("width", "3.250 +/- 3 thou", "functional"),
        SetSetup("profile", mill, "vise with soft jaws", "left stop", "30"),
    )
    key = hand.jobs.load(job).plan.setups[0].key
    hand.plan(
        job,
        SetStation(key, "A", "vise 1", "G54"),
        SetStation(key, "B", "vise 2", "G55"),
        *_tools(key, (2, "rough", 48, 20), (3, "finish", 36, 20), (7, "chamfer", 12, 20)),
    )
    hand.start(job)
    for number in range(1, 14):
        pieces = hand.load(250, 70)
        for piece in pieces:
            slip = 0.0008 if number == 6 else 0.0  # noqa: PLR2004
            tenon = "0.4995" if piece == 1 else hand.size(0.49955 + slip, 0.00012, 4)
            hand.gauge(piece, (1, tenon), (2, "3.2503" if piece == 1 else hand.size(3.2504, 0.0006, 4)))
            _decide(hand, piece)
        if number == 1:
            hand.do(do.AcceptMaster(pieces[0]))
        if number == 7:  # noqa: PLR2004
            hand.do(do.Adjust("T03 diameter wear", "-0.0002", "in"))
        with hand.runs.folded(hand.run_id) as state:
            if state.counts["good"] + state.counts["reworked"] >= state.plan.heading.quantity:
                break
    hand.do(do.CloseRun(short=True))


def _decide(hand: Hand, piece: int) -> None:
    """Decide on a plate that came out wide: the first is accepted as it is, any other scrapped."""
    with hand.runs.folded(hand.run_id) as state:
        if not state.pieces[piece].out:
            return
        again = any(other.outcome == "as_is" for other in state.pieces.values())
    if again:
        hand.do(do.Dispose(piece, "scrap", "Tenon too wide for the rail."))
    else:
        hand.do(do.Dispose(piece, "as_is", "Customer tried it in the rail and takes it."))


def _gate_spacer(desk: Desk, lathe: int) -> None:
    """Plan a job that is not ready: a critical size has no limits yet, and the bar has not come."""
    hand = Hand(desk, "MT", desk.now - timedelta(hours=20), seed=12)
    job = _new_job(hand, Heading("Gate spacer", 12, "mm", BOATS, "GS-4", "A", "acetal", None))
    due: date = desk.now.date() + timedelta(days=16)
    hand.plan(
        job,
        SetHeading("Gate spacer", 12, "mm", BOATS, "GS-4", "A", "acetal", due, 1, "30 mm acetal bar"),
        SetCharacteristic("bore", "10 H7", "critical"),
        SetCharacteristic("diameter", "Ø22", "critical", why="Sits in the gate; ask for its limits."),
        SetCharacteristic("thickness", "6 ±0.1"),
        SetForm("turned"),
        SetFeatureLine("end: face, free end"),
        SetFeatureLine("body Ø22 x 6"),
        SetFeatureLine("bore 10 H7 through, free end"),
        SetFeatureLine("thickness: part off 6 ±0.1"),
        SetFinish("clear anodise on the sleeve", "8", "15", "0.5", "0.7", "1.2"),
        SetKitPart("gate spacer", 1, "made", 0, 0),
        SetKitPart("oarlock pin", 1, "made", 0, 3),
        SetKitPart("gate nut", 1, "bought", 8),
        SetKitPart("sleeve", 1, "customer", 12),
    )
    made = tuple(feature.key for feature in hand.jobs.load(job).plan.features)
    held = SetSetup(
        "turn and part",
        lathe,
        "three-jaw chuck",
        "carriage stop",
        locates_on=("bar",),
        clamps_on=("bar",),
        cuts=made,
    )
    hand.plan(job, held)
