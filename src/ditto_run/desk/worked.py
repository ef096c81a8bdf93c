"""Plans worked out, each once for its version and what of the shop it uses; every page, gate and print reads the same."""

from collections import OrderedDict
from collections.abc import Callable, Mapping
from contextlib import suppress
from dataclasses import replace
from threading import Lock, RLock
from typing import Any, NoReturn

from ditto_run.core.errors import DittoError, NotNow
from ditto_run.core.plan import Plan, ShopKnown, Worked, changed_since, shop_used, work_out
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer, Known
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.shop.shop_tools import by_number
from ditto_run.desk.worker import STOPPED, Worker
from ditto_run.store.drawers import Drawers
from ditto_run.store.shop import Shop

MOST_KEPT = 64  # worked-out plans in memory; the oldest is forgotten first
SOON_S = 0.2  # how long a page waits for a long answer before it is drawn without it
KEPT_S = 8.0  # how long who keeps a sheet waits for a refusal, which stands at its field; 3 were once too few on a busy machine
TYPED_S = 1.0  # how long who types waits before the progress is shown
Key = tuple[int, ...]
Frozen = tuple[int, ShopKnown | None]


class WorkedPlans:
    """Worked-out plans in memory. They are worked out outside every lock of the database."""

    def __init__(self, shop: Shop, drawers: Drawers, worker: Worker) -> None:
        self._shop, self._drawers, self._worker = shop, drawers, worker
        self._kept: OrderedDict[Key, Worked] = OrderedDict()
        self._typing: dict[str, tuple[Callable[..., Any], tuple[object, ...]]] = {}
        self._since: OrderedDict[Key, tuple[str, ...]] = OrderedDict()
        self._lock = Lock()
        self._busy: dict[Key, RLock] = {}
        self._known: tuple[int, ShopKnown] | None = None

    def of(self, job_id: int, version: int, plan: Plan) -> Worked:
        """Return a version of a plan worked out with the shop as it is now.

        Args:
            job_id: which job.
            version: which version.
            plan: that version.
        """
        shop_version, shop = self.shop()
        key = (job_id, version, plan.part, shop_version)
        with self._lock:
            found = self._kept.get(key)
            if found is not None:
                self._kept.move_to_end(key)
                return found
            busy = self._busy.setdefault(key, RLock())
        with busy:  # whoever asks for the same meanwhile waits for it, and does not do it again
            with self._lock:
                found = self._kept.get(key)
            if found is None:
                found = self._worked_out(plan, shop)
        with self._lock:
            self._busy.pop(key, None)
            if not found.is_whole:  # asked again, it may be
                return found
            self._kept[key] = found
            while len(self._kept) > MOST_KEPT:
                self._kept.popitem(last=False)
        return found

    def changed_since(
        self, job_id: int, revision: int, plan: Plan, find: Callable[[], Frozen]
    ) -> tuple[str, ...]:
        """Return what comes out otherwise than with the shop a revision was frozen with.

        Args:
            job_id: which job.
            revision: its number.
            plan: its plan.
            find: gives the version it froze, and the shop then; asked once for each state of the shop.
        """
        key = (job_id, revision, self._shop.version)
        with self._lock:
            said = self._since.get(key)
        if said is None:
            version, then = find()
            said = ()
            if then is not None and then != shop_used(plan, self.shop()[1]):
                frozen, now = self._worked_out(plan, then), self.of(job_id, version, plan)
                if not (frozen.is_whole and now.is_whole):
                    return ()
                said = changed_since(frozen, now)
            with self._lock:
                self._since[key] = said
                while len(self._since) > MOST_KEPT:
                    self._since.popitem(last=False)
        return said

    def answer(self, kind: str, texts: Mapping[str, str], known: Known) -> Answer:
        """Return the answer of a sheet that is not kept, however long it takes.

        Raises:
            DittoError: why it has none.
        """
        return sheet_of(kind).answer(texts, replace(known, solve=self._worker.solve))

    def typed(
        self, kind: str, texts: Mapping[str, str], known: Known, whose: str, *, again: bool = True
    ) -> Answer:
        """Return the answer of a sheet while it is typed; what the same hand asked before is given up.

        Args:
            kind: which sheet.
            texts: what was typed.
            known: what its job knows.
            whose: tells one hand from another.
            again: False where it only looks whether the answer is there by now.

        Raises:
            BeingWorkedOut: if it takes longer than a moment.
            DittoError: why it has none.
        """

        def solve(work: Callable[..., Any], *values: object) -> Any:  # noqa: ANN401 - whatever the work gives
            before = self._typing.get(whose)
            self._typing[whose] = (work, values)
            if before is not None and before != (work, values):
                self._worker.leave(before[0], *before[1])
            if again:
                self._worker.again(work, *values)
            return self._worker.solve(work, *values, wait_s=TYPED_S, typed=True)

        return sheet_of(kind).answer(texts, replace(known, solve=solve))

    def stop(self, kind: str, texts: Mapping[str, str], known: Known) -> None:
        """Stop working on the answer of a sheet; it is refused until it is asked again."""

        def solve(work: Callable[..., Any], *values: object) -> NoReturn:
            self._worker.stop(work, *values)
            raise NotNow(*STOPPED)

        with suppress(DittoError):
            sheet_of(kind).answer(texts, replace(known, solve=solve))

    def soon(self, work: Callable[..., Any], *values: object) -> Any:  # noqa: ANN401 - whatever the work gives
        """Return what long work gives if it is there within a moment.

        Raises:
            BeingWorkedOut: if it is not.
        """
        return self._worker.solve(work, *values, wait_s=SOON_S, patient=False)

    def anew(self, work: Callable[..., Any], *values: object) -> Any:  # noqa: ANN401 - whatever the work gives
        """Return the same for who keeps something: what was stopped, or took too long, is tried once more."""
        self._worker.again(work, *values)
        return self._worker.solve(work, *values, wait_s=KEPT_S)

    def tried(self, plan: Plan) -> Worked:
        """Return a plan that is only tried, worked out with the shop as it is now; it is not kept."""
        return self._worked_out(plan, self.shop()[1])

    def _worked_out(self, plan: Plan, shop: ShopKnown) -> Worked:
        return work_out(plan, shop, self.soon)

    def shop(self) -> tuple[int, ShopKnown]:
        """Return what of the shop plans may use, and its version; an offset that was set changes neither."""
        version = self._shop.version
        with self._lock:
            if self._known is not None and self._known[0] == version:
                return self._known
        known = version, self._read_shop()
        with self._lock:
            self._known = known
        return known

    def forget(self) -> None:
        """Forget everything; for when the database was replaced."""
        with self._lock:
            self._kept.clear()
            self._since.clear()
            self._known = None

    def _read_shop(self) -> ShopKnown:
        shop = self._shop.load()
        materials, holders = (
            {row.value.name: row.value for row in self._drawers.rows(name)}
            for name in ("materials", "holders")
        )
        drills = [row.value for row in self._drawers.rows("drills")]
        drawer = drawer_of("drills")
        standard = [] if drills else [drawer.value(texts, "mm") for texts in drawer.standard()]
        return ShopKnown(
            shop.machines,
            materials,
            holders,
            tuple((drill.name, drill.diameter_mm) for drill in (*drills, *standard)),
            tuple((row.value.name, row.value.cuts_mm) for row in self._drawers.rows("reamers")),
            tuple((row.value.thread, row.value.lead) for row in self._drawers.rows("taps")),
            whole_drawer=not drills,
            money=shop.money,
            taught=tuple(row.value for row in self._drawers.rows("taught")),
            rates={row.value.name: row.value.cents_per_hour for row in self._drawers.rows("rates")},
            tools=by_number(row.value for row in self._drawers.rows("tools")),
            own_orders=tuple(row.value for row in self._drawers.rows("own_orders")),
        )
