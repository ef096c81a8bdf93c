"""Changes to sheets, finishes, measured stock, kits."""

from contextlib import suppress
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, BeingWorkedOut, DittoError, NeedsAnswer
from ditto_run.core.money import read_cents
from ditto_run.core.part import Finish, KitPart, as_machined, check_kit_part, doubt_about_size
from ditto_run.core.part.finish import read_pairs, shift_of_pairs
from ditto_run.core.part.kit import Source
from ditto_run.core.plan import Changed, Plan, known_of
from ditto_run.core.questions import ORIGINS
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Entries, KeptSheet, SheetKind, StockSize
from ditto_run.core.sizes import read_size
from ditto_run.core.stock import Order, check_order

MOST_FILM_UM = 1000
MOST_KEPT = 200
SAME = 1.3  # a measured size this many times the nominal is no measured size of it


@dataclass(frozen=True, slots=True)
class KeepSheet:
    """Keep a sheet with the job, or change the one of that key; `keep` holds an entry we asked about.

    `taken` says which entries are the job's as it stood, with their origin; of a sheet that is changed, those that are still
    as they were stay so.
    """

    sheet: str
    texts: dict[str, str] = field(default_factory=dict)
    name: str = ""
    key: int | None = None
    keep: str = ""
    of_setup: int | None = None
    taken: dict[str, str] = field(default_factory=dict)
    kind: Literal["keep_sheet"] = "keep_sheet"


@dataclass(frozen=True, slots=True)
class KeepSheets:
    """Keep several sheets with the job at once, all or none."""

    sheets: tuple[KeepSheet, ...]
    kind: Literal["keep_sheets"] = "keep_sheets"


@dataclass(frozen=True, slots=True)
class RemoveSheet:
    """Take a kept sheet away."""

    key: int
    kind: Literal["remove_sheet"] = "remove_sheet"


@dataclass(frozen=True, slots=True)
class SetFinish:
    """Add a finish, or change the one of that key. Figures are as typed."""

    name: str
    film_low: str = ""
    film_high: str = ""
    growth: str = "1"
    bore_share: str = "1"
    edge_share: str = "1"
    pairs: str = ""
    why: str = ""
    key: int | None = None
    kind: Literal["set_finish"] = "set_finish"


@dataclass(frozen=True, slots=True)
class RemoveFinish:
    """Take a finish away; sizes worked back from it are the drawing's again."""

    key: int
    kind: Literal["remove_finish"] = "remove_finish"


@dataclass(frozen=True, slots=True)
class SetStockSize:
    """Add a size of what was bought, or change the one of that key; `keep` holds one we asked about."""

    name: str
    nominal: str
    measured: str = ""
    key: int | None = None
    keep: str = ""
    kind: Literal["set_stock_size"] = "set_stock_size"


@dataclass(frozen=True, slots=True)
class RemoveStockSize:
    """Take a size of what was bought away."""

    key: int
    kind: Literal["remove_stock_size"] = "remove_stock_size"


@dataclass(frozen=True, slots=True)
class SetOrder:
    """Keep what was ordered for the job; figures as typed."""

    what: str
    supplier: str = ""
    bars: int = 0
    length: str = ""
    price: str = ""
    expected: date | None = None
    came: bool = False
    grade: str = ""
    grade_came: str = ""
    heat: str = ""
    kind: Literal["set_order"] = "set_order"


@dataclass(frozen=True, slots=True)
class RemoveOrder:
    """Take the order away."""

    kind: Literal["remove_order"] = "remove_order"


@dataclass(frozen=True, slots=True)
class SetKitPart:
    """Add a part of the kit, or change the one of that key."""

    name: str
    per_set: int = 1
    source: Source = "made"
    have: int = 0
    job_id: int | None = None
    key: int | None = None
    kind: Literal["set_kit_part"] = "set_kit_part"


@dataclass(frozen=True, slots=True)
class RemoveKitPart:
    """Take a part out of the kit."""

    key: int
    kind: Literal["remove_kit_part"] = "remove_kit_part"


@apply_edit.register
def _keep_sheet(edit: KeepSheet, plan: Plan, shop: PlanRegisters) -> Changed:
    kind = sheet_of(edit.sheet)
    names = {entry.name for entry in kind.entries}
    texts = {name: text.strip() for name, text in edit.texts.items() if name in names and text.strip()}
    with suppress(BeingWorkedOut):  # read to the end: what it comes to is said when it is there
        kind.answer(texts, known_of(plan, shop.machines, shop.materials, shop.solve))
    _ask_about_lengths(kind, texts, edit.keep, plan)
    if edit.key is None and len(plan.sheets) >= MOST_KEPT:
        raise BadEntry(f"{MOST_KEPT} sheets are kept already.", "Remove one first.")
    if edit.key is None and kind.single:
        edit = replace(edit, key=next((sheet.key for sheet in plan.sheets if sheet.kind == kind.kind), None))
    name = (
        kind.word
        if kind.single
        else edit.name.strip()[:60] or f"{kind.word} {sum(1 for s in plan.sheets if s.kind == kind.kind) + 1}"
    )
    setup = plan.setup(edit.of_setup).key if edit.of_setup else None
    was = plan.sheet(edit.key) if edit.key is not None else None
    taken = (
        {n: o for n, o in was.taken.items() if texts.get(n) == was.texts.get(n)} if was is not None else {}
    )
    taken |= {n: origin for n, origin in edit.taken.items() if n in texts and origin in ORIGINS}
    new = KeptSheet(plan.number_for(KeptSheet, edit.key), kind.kind, name, texts, setup, taken)
    return Changed(plan.put(new), f"kept {name}" if edit.key is None else f"changed {name}")


@apply_edit.register
def _keep_sheets(edit: KeepSheets, plan: Plan, shop: PlanRegisters) -> Changed:
    if not 0 < len(edit.sheets) <= MOST_KEPT:
        raise BadEntry("There is no answer to keep.", "Answer a question first.")
    names: list[str] = []
    for sheet in edit.sheets:
        changed = _keep_sheet(sheet, plan, shop)
        plan, names = changed.plan, [*names, sheet_of(sheet.sheet).word]
    return Changed(plan, f"kept {', '.join(names)}")


def _ask_about_lengths(kind: SheetKind, texts: dict[str, str], keep: str, plan: Plan) -> None:
    """Ask about a length about 10 or 25.4 times off the part's own sizes.

    Raises:
        NeedsAnswer: at the field, with the likely readings.
    """
    drawn = [c.drawing for c in plan.characteristics]
    for entry in kind.entries:
        text = texts.get(entry.name, "")
        if not entry.length or not text or keep.strip() == text:
            continue
        try:
            size = read_size(text, plan.heading.unit)
        except DittoError:
            continue
        doubt = doubt_about_size(size, drawn, plan.heading.unit)
        if doubt is not None:
            doubt.field = entry.name
            raise doubt


@apply_edit.register
def _remove_sheet(edit: RemoveSheet, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.sheet(edit.key)
    return Changed(plan.without(gone), f"removed {gone.name}")


@apply_edit.register
def _set_finish(edit: SetFinish, plan: Plan, _shop: PlanRegisters) -> Changed:
    labels = {
        "film_low": "Film from",
        "film_high": "Film to",
        "growth": "Growth over film",
        "bore_share": "Share in a bore",
        "edge_share": "Share on ends",
    }
    texts = {name: getattr(edit, name) for name in labels}
    entries = Entries(texts, plan.heading.unit, labels, {"film_low": "film", "film_high": "film"})
    if not edit.name.strip():
        raise BadEntry("The finish has no name.", "Type it as it was ordered, such as clear anodise.", "name")
    low, high = (entries.quantity(name, 0, MOST_FILM_UM, 0) for name in ("film_low", "film_high"))
    if low > high:
        raise BadEntry("The least film is above the most.", "Swap them.", "film_low")
    measured = None
    if edit.pairs.strip():
        shift = shift_of_pairs(read_pairs(edit.pairs, plan.heading.unit), None)
        measured = Decimal(repr(round(shift.low_um / 2, 2))), Decimal(repr(round(shift.high_um / 2, 2)))
    new = Finish(
        plan.number_for(Finish, edit.key),
        edit.name.strip()[:60],
        low,
        high,
        entries.share("growth", -1, 1, 1),
        entries.share("bore_share", 0, 1, 1),
        entries.share("edge_share", 1, 3, 1),
        edit.pairs.strip(),
        measured,
        " ".join(edit.why.split())[:160],
    )
    return Changed(_worked_back(plan.put(new)), f"finish {new.name}")


def _worked_back(plan: Plan) -> Plan:
    return replace(plan, characteristics=tuple(as_machined(c, plan.finishes) for c in plan.characteristics))


@apply_edit.register
def _remove_finish(edit: RemoveFinish, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.finish(edit.key)
    kept = replace(
        plan.without(gone),
        characteristics=tuple(
            replace(c, finish=None) if c.finish == edit.key else c for c in plan.characteristics
        ),
    )
    return Changed(_worked_back(kept), f"removed {gone.name}")


@apply_edit.register
def _set_stock_size(edit: SetStockSize, plan: Plan, _shop: PlanRegisters) -> Changed:
    labels = {"nominal": "Sold as", "measured": "Measures"}
    entries = Entries({"nominal": edit.nominal, "measured": edit.measured}, plan.heading.unit, labels)
    if not edit.name.strip():
        raise BadEntry("It has no name.", "Type what it is, such as bar, plate thickness, seal cord.", "name")
    nominal, measured = entries.mm("nominal", "12"), entries.maybe_mm("measured")
    if measured is not None and edit.keep.strip() != edit.measured.strip():
        ratio = float(measured / nominal)
        if max(ratio, 1 / ratio) > SAME:
            raise NeedsAnswer(
                f"{edit.measured.strip()} is {ratio:.2g} times {edit.nominal.strip()}.",
                "Check the point and the unit, or say again to keep it.",
                "measured",
            )
    new = StockSize(
        plan.number_for(StockSize, edit.key),
        edit.name.strip()[:60],
        edit.nominal.strip(),
        edit.measured.strip(),
    )
    return Changed(plan.put(new), f"{new.name} {new.measured or new.nominal}")


@apply_edit.register
def _remove_stock_size(edit: RemoveStockSize, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.stock_size(edit.key)
    users = plan.stock_users().get(edit.key, [])
    if users:
        raise BadEntry(f"{gone.name} is used by {', '.join(users)}.", "Change those first.")
    return Changed(plan.without(gone), f"removed {gone.name}")


@apply_edit.register
def _set_order(edit: SetOrder, plan: Plan, _shop: PlanRegisters) -> Changed:
    order = check_order(
        Order(
            edit.what.strip()[:80],
            edit.supplier.strip()[:60],
            edit.bars,
            edit.length.strip()[:30],
            read_cents(edit.price, "price"),
            edit.expected.isoformat() if edit.expected else "",
            edit.came,
            edit.grade.strip()[:40],
            edit.grade_came.strip()[:40],
            edit.heat.strip()[:60],
        )
    )
    heading = replace(plan.heading, heat=order.heat) if order.heat else plan.heading
    return Changed(
        replace(plan, order=order, heading=heading),
        f"ordered {order.what}" if not order.came else f"{order.what} came",
    )


@apply_edit.register
def _remove_order(_edit: RemoveOrder, plan: Plan, _shop: PlanRegisters) -> Changed:
    return Changed(replace(plan, order=None), "no order")


@apply_edit.register
def _set_kit_part(edit: SetKitPart, plan: Plan, _shop: PlanRegisters) -> Changed:
    new = check_kit_part(
        KitPart(
            plan.number_for(KitPart, edit.key),
            edit.name.strip()[:60],
            edit.per_set,
            edit.source,
            edit.have,
            edit.job_id,
        )
    )
    return Changed(plan.put(new), f"kit: {new.name}")


@apply_edit.register
def _remove_kit_part(edit: RemoveKitPart, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.kit_part(edit.key)
    return Changed(plan.without(gone), f"removed {gone.name}")
