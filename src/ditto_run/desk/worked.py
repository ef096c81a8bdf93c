"""Plans worked out, each once for its version and what of the shop it uses; every page, gate and print reads the same."""

from collections import OrderedDict
from collections.abc import Callable, Mapping
from dataclasses import replace
from threading import Lock, RLock

from ditto_run.core.errors import NotNow
from ditto_run.core.plan import Plan, ShopKnown, Worked, changed_since, shop_used, work_out
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer, Known
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.desk.worker import Worker
from ditto_run.store.drawers import Drawers
from ditto_run.store.shop import Shop

MOST_KEPT = 64  # worked-out plans in memory; the oldest is forgotten first
HEAVY = {"mixed"}  # sheets that a solver works out
Key = tuple[int, int, int]
Frozen = tuple[int, ShopKnown | None]


class WorkedPlans:
    """Worked-out plans in memory. They are worked out outside every lock of the database."""

    def __init__(self, shop: Shop, drawers: Drawers, worker: Worker) -> None:
        self._shop, self._drawers, self._worker = shop, drawers, worker
        self._kept: OrderedDict[Key, Worked] = OrderedDict()
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
        key = (job_id, version, shop_version)
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
            self._kept[key] = found
            self._busy.pop(key, None)
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
                said = changed_since(self._worked_out(plan, then), self.of(job_id, version, plan))
            with self._lock:
                self._since[key] = said
                while len(self._since) > MOST_KEPT:
                    self._since.popitem(last=False)
        return said

    def answer(self, kind: str, texts: Mapping[str, str], known: Known) -> Answer:
        """Return the answer of a sheet that is only typed yet; one that can take long is worked out in the other process.

        Raises:
            DittoError: why it has none.
        """
        if kind in HEAVY:
            return self._worker.run(_answer, kind, dict(texts), known)
        return _answer(kind, dict(texts), known)

    def _worked_out(self, plan: Plan, shop: ShopKnown) -> Worked:
        """Work a plan out. A sheet that is too much for this machine is refused; the rest of the job goes on without it."""
        heavy = [sheet for sheet in plan.sheets if sheet.kind in HEAVY]
        if not heavy:
            return work_out(plan, shop)
        try:
            return self._worker.run(work_out, plan, shop)
        except NotNow as refusal:
            light = tuple(sheet for sheet in plan.sheets if sheet not in heavy)
            rest = work_out(replace(plan, sheets=light), shop)
            refused = {**rest.refusals, **{sheet.key: refusal for sheet in heavy}}
            return replace(rest, plan=plan, refusals=refused)

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
        )


def _answer(kind: str, texts: dict[str, str], known: Known) -> Answer:
    return sheet_of(kind).answer(texts, known)
