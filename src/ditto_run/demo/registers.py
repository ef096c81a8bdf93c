"""The demo shop's machines with their tables, its drawers, its offsets. All of it is made up."""

from datetime import datetime, timedelta
from decimal import Decimal

from ditto_run.core.place.offsets import Axis, OffsetChange
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Ability, Dialect, Machine, Wear, read_codes
from ditto_run.core.shop.bed import LABELS, read_bed
from ditto_run.core.shop.drawers import DRAWERS
from ditto_run.desk import Desk

INCH_WEAR = Wear("diameter", "plus", Decimal("0.0001"), "in")
MILL_ABILITY = Ability(
    Decimal("7.5"),
    Decimal(48),
    Decimal(8000),
    Decimal(620),
    Decimal(340),
    Decimal(430),
    None,
    "rigid",
    rapid_m_min=Decimal(24),
    accel_m_s2=Decimal(3),
    change_s=Decimal(6),
    tool_mm=Decimal(250),
)
MILL_TABLE = {
    "table_x": "760",
    "table_y": "380",
    "slots": "3",
    "slot_first": "90",
    "slot_pitch": "100",
    "slot_width": "16",
    "slots_run": "X",
    "reach_from": "70,20",
    "home": "right back",
    "nose": "479.5",
    "keep_outs": "column cover: 0,392 760,418\ndoor: 706,0 760,176",
    "corner": "back left",
    "stop_side": "left",
    "zero_at": "top of the piece",
    "placing": "0.5",
}
OLD_TABLE = {
    "table_x": "1070",
    "table_y": "230",
    "slots": "3",
    "slot_first": "51.5",
    "slot_pitch": "63.5",
    "slot_width": "15.9",
    "slots_run": "X",
    "reach_from": "210,-15",
    "home": "left front",
    "nose": "430",
    "keep_outs": "column: 440,236 640,330",
    "corner": "back left",
    "stop_side": "left",
    "zero_at": "seat",
    "placing": "1",
}
SMALL_TABLE = {
    "table_x": "520",
    "table_y": "260",
    "slots": "4",
    "slot_first": "40",
    "slot_pitch": "60",
    "slot_width": "12",
    "slots_run": "X",
    "reach_from": "60,5",
    "home": "left back",
    "nose": "390",
    "keep_outs": "tool changer: -60,120 40,260",
    "corner": "back left",
    "stop_side": "left",
    "zero_at": "top of the piece",
    "placing": "0.3",
}
SMALL_ABILITY = Ability(
    Decimal("2.2"),
    Decimal(14),
    Decimal(10_000),
    Decimal(400),
    Decimal(250),
    Decimal(300),
    None,
    "floating",
    rapid_m_min=Decimal(15),
    accel_m_s2=Decimal(2),
    change_s=Decimal(8),
    tool_mm=Decimal(160),
)
VISE = {
    "kind": "vise",
    "shape": "flat",
    "low": "5 mm",
    "high": "110 mm",
    "marks": "light",
    "repeat": "0.01 mm",
    "machine": "Mill 2",
    "torque": "60 N·m",
    "body_x": "100 mm",
    "body_y": "196 mm",
    "tall": "108 mm",
    "seat": "83 mm",
    "jaw_width": "100 mm",
    "jaw_at": "30 mm",
    "handle_at": "50,-6",
    "handle_swing": "62 mm",
    "bolts": "0,120 100,120",
}
PALLET = {
    "kind": "fixture plate",
    "shape": "any",
    "low": "0 mm",
    "high": "160 mm",
    "marks": "none",
    "repeat": "0.008 mm",
    "shelf": "rack 4",
    "torque": "12 N·m",
    "body_x": "160 mm",
    "body_y": "176 mm",
    "tall": "100 mm",
    "seat": "92 mm",
    "origin": "0,176",
    "nests": "43,128 117,128 43,52 117,52",
    "handle_at": "146,16",
    "handle_swing": "42 mm",
    "next_time": "Wipe the bushing before it goes on.",
}
LATHE_ABILITY = Ability(
    Decimal("5.5"),
    Decimal(95),
    Decimal(4500),
    Decimal(160),
    None,
    Decimal(320),
    Decimal(42),
    "rigid",
    rapid_m_min=Decimal(20),
    accel_m_s2=Decimal(3),
    change_s=Decimal("1.5"),
    tool_mm=Decimal(90),
)
MANUAL_ABILITY = Ability(
    Decimal("1.5"),
    Decimal(60),
    Decimal(2700),
    Decimal(650),
    Decimal(260),
    Decimal(380),
    None,
    "no",
    speeds_rpm=tuple(map(Decimal, (80, 135, 210, 325, 550, 660, 1120, 1750, 2720))),
)

HAND_LATHE_ABILITY = Ability(
    Decimal("1.5"),
    Decimal(90),
    Decimal(1800),
    Decimal(110),
    None,
    Decimal(500),
    Decimal(26),
    "floating",
    speeds_rpm=tuple(map(Decimal, (65, 130, 200, 330, 500, 850, 1200, 1800))),
)


def add_machines(desk: Desk) -> tuple[int, int, int]:
    """Add the machines; return the numbers of the mill, the lathe and the hand lathe."""
    bed = read_bed(Entries(MILL_TABLE, "mm", LABELS), (Decimal(620), Decimal(340), Decimal(430)))
    codes = read_codes("G54-G59, G59.1-G59.3, G54.1 P1-P48")
    mill = desk.shop.save_machine(
        Machine(0, "Mill 2", "mill", codes, INCH_WEAR, MILL_ABILITY, bed, Dialect("extended"))
    )
    lathe = desk.shop.save_machine(
        Machine(0, "Lathe 1", "lathe", read_codes("G54-G59"), Wear(), LATHE_ABILITY)
    )
    old_bed = read_bed(Entries(OLD_TABLE, "mm", LABELS), (Decimal(650), Decimal(260), Decimal(380)))
    desk.shop.save_machine(
        Machine(
            0, "Old mill", "manual mill", read_codes("preset 1-preset 9"), ability=MANUAL_ABILITY, bed=old_bed
        )
    )
    small_bed = read_bed(Entries(SMALL_TABLE, "mm", LABELS), (Decimal(400), Decimal(250), Decimal(300)))
    desk.shop.save_machine(
        Machine(0, "Mill 5", "mill", read_codes("G54-G59"), ability=SMALL_ABILITY, bed=small_bed)
    )
    hand = desk.shop.save_machine(Machine(0, "Hand lathe", "manual lathe", ability=HAND_LATHE_ABILITY))
    return mill, lathe, hand


def fill_drawers(desk: Desk) -> None:
    """Fill the drawers: usual sets, and what this shop has of its own."""
    for drawer in DRAWERS:
        desk.drawers.replace(drawer.name, drawer.standard())
    desk.drawers.replace(
        "reamers", [{"name": "12 mm new", "cuts": "12.006"}, {"name": "12 mm worn", "cuts": "11.997"}]
    )
    vises = [VISE | {"name": f"Vise {n}"} for n in (1, 2, 3)]
    desk.drawers.replace("holders", [*vises, PALLET | {"name": "Pallet P"}])
    rates = (("labour", "42.00"), ("Mill 2", "38.00"), ("Lathe 1", "34.00"), ("Old mill", "12.00"))
    shelf = (
        ("A3", "6061-T6", "40 × 32", "380 mm", "rack 1"),
        ("A7", "316 stainless", "Ø12", "740 mm", "rack 2"),
    )
    names = ("name", "material", "section", "length", "shelf")
    desk.drawers.replace("offcuts", [dict(zip(names, row, strict=True)) for row in shelf])
    exchange = (
        ("P", "Pallet P", "on the machine", "Mill 2, pallet base", "clamp blocks, second side", ""),
        ("Q", "Pallet P", "ready", "rack 4", "clamp blocks, second side", "Fresh edge pins since May."),
        ("R", "Pallet P", "at the bench", "", "", "Nest 3 sits high, being scraped."),
    )
    columns = ("name", "holder", "state", "base", "holds", "note")
    desk.drawers.replace("pallets", [dict(zip(columns, row, strict=True)) for row in exchange])
    desk.drawers.replace("rates", [{"name": name, "per_hour": rate} for name, rate in rates])


def set_offsets(desk: Desk, mill: int, now: datetime) -> None:
    """Write the offsets of the mill: three vises, the pallet without its Z, and one that is kept."""
    machine = desk.shop.load().machines[mill]
    found = {
        "G54": ("-23.6220", "-5.0394", "-14.2520", "two edges and half, Z by pad"),
        "G55": ("-17.3220", "-5.0386", "-14.2504", "two edges and half, Z by pad"),
        "G56": ("-11.0248", "-5.0406", "-14.2531", "two edges and half, Z by pad"),
        "G57": ("-6.2205", "-2.8346", "", "bushing by 4 points"),
    }
    base = OffsetChange(
        "G59.3",
        {"x": Decimal("-6.2205"), "y": Decimal("-2.8346"), "z": Decimal("-15.2559")},
        "bushing by 4 points, pad",
        kept=True,
        name="pallet base",
        purpose="Bushing and Z pad of the pallet base; every pallet is worked out from it.",
        limit=Decimal("0.0008"),
    )
    desk.at(lambda: now - timedelta(days=40)).offsets.write(machine, [base], "RK")
    axes: tuple[Axis, ...] = ("x", "y", "z")
    changes = [
        OffsetChange(
            code, {axis: Decimal(text) for axis, text in zip(axes, row[:3], strict=True) if text}, row[3]
        )
        for code, row in found.items()
    ]
    desk.at(lambda: now - timedelta(seconds=9000)).offsets.write(machine, changes, "RK")
    in_the_mill = (
        ("T01 face mill", "face mill", "50 mm", "45 mm", "", "", "", "5", "carbide", "", "40 mm", ""),
        (
            "T02 roughing",
            "end mill",
            "16 mm",
            "40 mm",
            "3 h",
            "2 h",
            "1",
            "3",
            "carbide",
            "34 mm",
            "32 mm",
            "side lock",
        ),
        (
            "T03 finish slot",
            "end mill",
            "12 mm",
            "34 mm",
            "90 min",
            "15 min",
            "2",
            "3",
            "carbide",
            "26 mm",
            "28 mm",
            "kept for aluminium",
        ),
        ("T04 spot drill", "spot drill", "10 mm", "38 mm", "", "", "", "2", "HSS", "", "28 mm", ""),
        ("T05 drill", "drill", "11.7 mm", "92 mm", "400", "250", "2", "2", "HSS", "78 mm", "30 mm", ""),
        (
            "T06 reamer",
            "reamer",
            "12 mm",
            "85 mm",
            "600",
            "180",
            "1",
            "6",
            "HSS",
            "44 mm",
            "30 mm",
            "12 mm new of Reamers",
        ),
    )
    of_a_tool = (
        "name",
        "kind",
        "across",
        "out",
        "life",
        "left",
        "sisters",
        "flutes",
        "edge",
        "flute",
        "nose",
        "note",
    )
    tools = [dict(zip(of_a_tool, row, strict=True)) | {"machine": "Mill 2"} for row in in_the_mill]
    desk.drawers.replace("tools", tools)
