"""The shop's registers between the core and the database."""

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from sqlalchemy import Connection, Row, Table, insert, select, update
from sqlalchemy.dialects.sqlite import insert as upsert

from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.place.offsets import Register
from ditto_run.core.shop import Ability, Bed, Dialect, Gauge, Machine, Person, Wear, codes_text, read_codes
from ditto_run.core.shop.costs import NO_COSTS, SHOP_COSTS, ShopCosts, read_costs
from ditto_run.core.shop.day import ShopDay, read_day
from ditto_run.core.units import LengthUnit
from ditto_run.formats.documents import ABILITY, BED, DIALECT
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.offsets import backups_of, looks_of, standing_offsets
from ditto_run.store.setting import keep_setting, read_setting

LONGEST_INITIALS = 4


@dataclass(frozen=True, slots=True)
class Registers:
    """Everything of the shop at one moment, removed things left out of the lists."""

    unit: str
    name: str
    money: str
    angle: str
    machines: Mapping[int, Machine]
    gauges: Mapping[int, Gauge]
    people: tuple[Person, ...]
    register: Register
    day: ShopDay
    costs: ShopCosts = NO_COSTS

    @property
    def length_unit(self) -> LengthUnit:
        """Unit of a length typed on Shop without one: the one new jobs start with, millimetres before it is chosen."""
        return "in" if self.unit == "in" else "mm"

    @property
    def is_new(self) -> bool:
        """True before the first run's questions are answered."""
        return not self.people or not self.unit


class Shop:
    """The shop's registers."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._kept: tuple[tuple[int, int], Registers] | None = None

    @property
    def version(self) -> int:
        """A number that grows with every change of the registers, the offsets left out."""
        return self._database.shop_version

    def load(self) -> Registers:
        """Return the registers; read again only after one of them, or an offset, was changed."""
        version = self._database.shop_version, self._database.offsets_version
        kept = self._kept
        if kept is not None and kept[0] == version:
            return kept[1]
        with self._database.reading() as connection:
            found = registers_in(connection)
        self._kept = version, found
        return found

    def machine(self, number: int) -> Machine:
        """Return a machine of the register.

        Raises:
            NotFound: if there is none.
        """
        found = self.load().machines.get(number)
        if found is None:
            raise NotFound("machine", number, "Choose one on Shop.")
        return found

    def save_setting(self, name: str, value: str) -> None:
        """Keep one setting, such as the unit."""
        with self._database.writing(shop=True) as connection:
            keep_setting(connection, name, value)

    def setting(self, name: str) -> str:
        """Return one setting; empty while nobody said it."""
        with self._database.reading() as connection:
            return read_setting(connection, name) or ""

    def save_day(self, day: ShopDay) -> None:
        """Keep when the shop works."""
        with self._database.writing(shop=True) as connection:
            for name, value in (("hours", day.hours_text), ("breaks", day.breaks_text), ("days", day.days)):
                keep_setting(connection, name, value)

    def save_costs(self, costs: ShopCosts) -> None:
        """Keep what things cost at the machines."""
        said = costs.said
        with self._database.writing(shop=True) as connection:
            for name in (*SHOP_COSTS, "times"):
                keep_setting(connection, f"cost_{name}", f"{said[name]:g}" if name in said else "")

    def save_machine(self, machine: Machine) -> int:
        """Keep a machine; number 0 makes a new one. Returns its number."""
        values = _machine_values(machine)
        with self._database.writing(shop=True) as connection:
            return _save(connection, tables.machine, machine.id, values)

    def save_bed(self, number: int, bed: Bed, ability: Ability) -> None:
        """Keep the table of a machine, and with it the travels it was worked out from."""
        self._save(tables.machine, number, {"bed": _bed(bed), "ability": ABILITY.dump_json(ability).decode()})

    def save_dialect(self, number: int, dialect: Dialect) -> None:
        """Keep how a machine's control reads G10."""
        self._save(tables.machine, number, {"dialect": DIALECT.dump_json(dialect).decode()})

    def save_gauge(self, gauge: Gauge) -> int:
        """Keep a gauge; number 0 makes a new one. Returns its number."""
        values = _gauge_values(gauge)
        with self._database.writing(shop=True) as connection:
            return _save(connection, tables.gauge, gauge.id, values)

    def _save(self, table: Table, number: int, values: dict[str, object]) -> None:
        with self._database.writing(shop=True) as connection:
            _save(connection, table, number, values)

    def begin(self, unit: str, initials: str, machine: Machine | None) -> None:
        """Keep the answers to the first questions: all of them or none."""
        short, values = _initials(initials), None if machine is None else _machine_values(machine)
        with self._database.writing(shop=True) as connection:
            keep_setting(connection, "unit", unit)
            _keep_person(connection, short)
            if values is not None:
                _save(connection, tables.machine, 0, values)

    def save_person(self, initials: str) -> str:
        """Keep somebody's initials. Returns them in capitals."""
        short = _initials(initials)
        with self._database.writing(shop=True) as connection:
            _keep_person(connection, short)
        return short

    def remove(self, register: str, key: str) -> None:
        """Take a machine, gauge or person out of the lists; what refers to it keeps it."""
        table, column = {
            "machine": (tables.machine, tables.machine.c.id),
            "gauge": (tables.gauge, tables.gauge.c.id),
            "person": (tables.person, tables.person.c.initials),
        }[register]
        with self._database.writing(shop=True) as connection:
            connection.execute(update(table).where(column == key).values(removed=True))


def registers_in(connection: Connection) -> Registers:
    """Return the registers within a session of the caller."""
    settings = {
        row[0]: row[1] for row in connection.execute(select(tables.setting.c.name, tables.setting.c.value))
    }
    machines = connection.execute(select(tables.machine).where(~tables.machine.c.removed)).all()
    gauges = connection.execute(select(tables.gauge).where(~tables.gauge.c.removed)).all()
    people = (
        connection.execute(select(tables.person.c.initials).where(~tables.person.c.removed)).scalars().all()
    )
    offsets = standing_offsets(connection)
    return Registers(
        settings.get("unit", ""),
        settings.get("name", ""),
        settings.get("money", "€"),
        settings.get("angle", "third"),
        {row.id: _machine(row) for row in machines},
        {row.id: _gauge(row) for row in gauges},
        tuple(Person(initials) for initials in people),
        Register(offsets, backups_of(settings), looks_of(settings)),
        _day(settings),
        _costs(settings),
    )


def _gauge(row: Row[Any]) -> Gauge:
    repeats = Decimal(row.repeats) if row.repeats else None
    return Gauge(row.id, row.name, Decimal(row.resolution), row.unit, repeats)


def _day(settings: Mapping[str, str]) -> ShopDay:
    try:
        return read_day(*(settings.get(name, "") for name in ("hours", "breaks", "days")))
    except BadEntry:  # written by another version: not known is better than wrong
        return ShopDay()


def _costs(settings: Mapping[str, str]) -> ShopCosts:
    try:
        return read_costs({name: settings.get(f"cost_{name}", "") for name in (*SHOP_COSTS, "times")})
    except BadEntry:  # written by another version
        return NO_COSTS


def insert_machine(connection: Connection, machine: Machine) -> int:
    """Write a new machine within a session of the caller. Returns its number."""
    return _save(connection, tables.machine, 0, _machine_values(machine))


def insert_gauge(connection: Connection, gauge: Gauge) -> int:
    """Write a new gauge within a session of the caller. Returns its number."""
    return _save(connection, tables.gauge, 0, _gauge_values(gauge))


def _save(connection: Connection, table: Table, number: int, values: dict[str, object]) -> int:
    if number:
        connection.execute(update(table).where(table.c.id == number).values(**values))
        return number
    made = connection.execute(insert(table).values(**values)).inserted_primary_key
    return int(made[0]) if made else 0


def _machine_values(machine: Machine) -> dict[str, object]:
    name = _name(machine.name, "machine")
    increment = machine.wear.increment
    if not Decimal(0) < increment <= 1:
        raise BadEntry(
            f"A least increment of {increment} is not possible.",
            "Type it as the control shows it, such as 0.001.",
            "increment",
        )
    values: dict[str, object] = {
        "name": name,
        "kind": machine.kind,
        "offset_codes": codes_text(machine.offset_codes),
        "wear_by": machine.wear.by,
        "wear_bigger_is": machine.wear.bigger_is,
        "wear_increment": f"{increment:f}",
        "wear_unit": machine.wear.unit,
        "ability": ABILITY.dump_json(machine.ability).decode(),
        "removed": False,
    }
    if not machine.id:  # later the table and the dialect are kept by their own forms
        values |= {"bed": _bed(machine.bed), "dialect": DIALECT.dump_json(machine.dialect).decode()}
    return values


def _gauge_values(gauge: Gauge) -> dict[str, object]:
    if gauge.resolution <= 0:
        raise BadEntry(
            "A gauge's resolution is above zero.",
            "Type the least step it shows, such as 0.001.",
            "resolution",
        )
    return {
        "name": _name(gauge.name, "gauge"),
        "resolution": f"{gauge.resolution:f}",
        "unit": gauge.unit,
        "repeats": "" if gauge.repeats is None else f"{gauge.repeats:f}",
        "removed": False,
    }


def _initials(typed: str) -> str:
    short = typed.strip().upper()
    if not short.isalpha() or len(short) > LONGEST_INITIALS:
        raise BadEntry(
            f"“{typed[:20]}” are not initials.", "Type one to four letters, such as RK.", "initials"
        )
    return short


def _keep_person(connection: Connection, short: str) -> None:
    statement = upsert(tables.person).values(initials=short, removed=False)
    connection.execute(statement.on_conflict_do_update(index_elements=["initials"], set_={"removed": False}))


def machine_in(connection: Connection, number: int | None) -> Machine | None:
    """Return a machine, a removed one too, within a session of the caller; None if there is none."""
    row = connection.execute(select(tables.machine).where(tables.machine.c.id == number)).first()
    return _machine(row) if row is not None else None


def _machine(row: Row[Any]) -> Machine:
    wear = Wear(row.wear_by, row.wear_bigger_is, Decimal(row.wear_increment), row.wear_unit)
    return Machine(
        row.id,
        row.name,
        row.kind,
        read_codes(row.offset_codes),
        wear,
        ABILITY.validate_json(row.ability),
        BED.validate_json(row.bed) if row.bed else None,
        DIALECT.validate_json(row.dialect),
    )


def _bed(bed: Bed | None) -> str:
    return BED.dump_json(bed).decode() if bed else ""


def _name(text: str, what: str) -> str:
    if not text.strip():
        raise BadEntry(f"The {what} has no name.", "Type what the shop calls it, such as Mill 2.", "name")
    return text.strip()[:60]
