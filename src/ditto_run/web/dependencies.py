"""What every page asks for: the shop's desk, and a way to render a template."""

from contextlib import suppress
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Annotated, Any
from urllib.parse import unquote
from zlib import crc32

from fastapi import Cookie, Depends, Request
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates
from jinja2 import FileSystemBytecodeCache
from jinja2.bccache import Bucket
from starlette.datastructures import FormData

from ditto_run import __version__
from ditto_run.core.findings import Finding
from ditto_run.core.part.finish import FACTOR
from ditto_run.core.plan import FIRST_PART, Plan
from ditto_run.core.progress import step_states
from ditto_run.core.run import RunState
from ditto_run.core.run.proven import proof_of
from ditto_run.core.steps import STEPS, StepState
from ditto_run.desk import Desk
from ditto_run.desk.forgetting import forgotten_before
from ditto_run.desk.gate import Open
from ditto_run.desk.values import Job, Registers
from ditto_run.web import drawings, filters
from ditto_run.web.keys import KEYS
from ditto_run.web.told import say_no_more, what_was_told

FACES = tuple(FACTOR)
FOLDER = Path(__file__).parent


def built() -> str:
    """Return a word that changes whenever a style or script does, so that a browser keeps each for as long as it holds."""
    files = sorted((FOLDER / "static").rglob("*.*"))
    stamp = "".join(f"{file.name}{file.stat().st_size}{file.stat().st_mtime_ns}" for file in files)
    return f"{__version__}-{crc32(stamp.encode()):08x}"


templates = Jinja2Templates(FOLDER / "templates")
templates.env.filters.update(filters.FILTERS)
templates.env.globals.update(
    drawings=drawings,
    faces=FACES,
    steps=STEPS,
    version=__version__,
    built=built(),
    keys_json=[asdict(key) for key in KEYS],
)
templates.env.trim_blocks = templates.env.lstrip_blocks = True


class _Compiled(FileSystemBytecodeCache):
    """Compiled templates in the temporary folder; where it is full or held, each start compiles for itself."""

    def dump_bytecode(self, bucket: Bucket) -> None:
        """Keep a template, if there is room."""
        with suppress(OSError):
            super().dump_bytecode(bucket)


with suppress(OSError, RuntimeError):  # where there is a safe folder: the next start is quicker
    templates.env.bytecode_cache = _Compiled()


@dataclass(frozen=True, slots=True)
class Render:
    """Renders a template for the request at hand."""

    request: Request

    def __call__(self, name: str, *, status: int = 200, **context: Any) -> HTMLResponse:  # noqa: ANN401 - whatever the template needs
        """Render the template `name` with `context`; a whole page says what the form before it did."""
        is_page = not name.rpartition("/")[2].startswith("_")
        said = what_was_told(self.request) if is_page else ""
        response = templates.TemplateResponse(self.request, name, context | {"told": said}, status)
        if said:
            say_no_more(response)
        return response

    @property
    def who(self) -> str:
        """The initials chosen in the browser that asks, else those of the first person."""
        return who_works(self.request.app.state.desk, self.request.cookies.get("who", ""))

    @property
    def is_part(self) -> bool:
        """True if htmx asks for a part of the page."""
        return "hx-request" in self.request.headers


# Only what touches nothing but the request is a coroutine: whatever works, or waits for the disk, does so in a thread.


async def open_desk(request: Request) -> Desk:
    """Return the desk of the application."""
    desk: Desk = request.app.state.desk
    return desk.seen_from(request.scope.get("part", FIRST_PART))


def who_works(desk: Annotated[Desk, Depends(open_desk)], who: Annotated[str, Cookie()] = "") -> str:
    """Return the initials chosen in this browser, else those of the first person."""
    said = unquote(who)
    if said.isalpha() and len(said) <= 4:  # noqa: PLR2004 - initials
        return said.upper()
    people = desk.shop.load().people
    return people[0].initials if people else "ME"


async def _render(request: Request) -> Render:
    return Render(request)


async def _form(request: Request) -> FormData:
    return await request.form()


async def _texts(request: Request) -> dict[str, str]:
    return {name: str(value) for name, value in (await request.form()).items()}


async def _body(request: Request) -> bytes:
    return await request.body()


DeskDep = Annotated[Desk, Depends(open_desk)]
RenderDep = Annotated[Render, Depends(_render)]
WhoDep = Annotated[str, Depends(who_works)]
FormDep = Annotated[FormData, Depends(_form)]
SentDep = Annotated[dict[str, str], Depends(_texts)]
BodyDep = Annotated[bytes, Depends(_body)]


@dataclass(frozen=True, slots=True)
class Head:
    """What the top of every job page shows."""

    job: Job
    states: tuple[StepState, ...]
    shop: Registers
    setup_words: str = ""
    findings: tuple[Finding, ...] = ()
    open: Open = field(default_factory=lambda: Open(()))


def head_of(desk: Desk, job: Job, found: Open, state: RunState | None = None) -> Head:
    """Return the head of a job's page, counted from the one list of what is open.

    That list is worked out before a run is lent: nobody at the machine waits for it.
    """
    plan: Plan = job.plan
    setup = ""
    if state is not None and state.plan.is_declared(state.cycle):
        setup = state.plan.cycle(state.cycle).name
    elif plan.setups:
        at = plan.position(state.here.setups[0]) if state and state.here.setups else 1
        setup = f"setup {max(at, 1)} of {len(plan.setups)}"
    findings = tuple(thing.finding for thing in found.things if thing.stands is None)
    shop = desk.shop.load()
    to_prove = still_to_prove(desk, state) if state is not None else 0
    states = step_states(findings, state, plan.not_begun, to_prove)
    return Head(job, states, shop, setup, findings, found)


def still_to_prove(desk: Desk, state: RunState) -> int | None:
    """Return how many things of the cycle that is looked at are still to be gone through, its first pieces too.

    None where the first piece was accepted and nobody looked at any.
    """
    shop = desk.shop.load()
    machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
    offsets = shop.register.of(machine.id if machine is not None else None)
    proof = proof_of(state, machine, offsets, forgotten_before(desk))
    if proof.is_passed_by:
        return None
    return proof.count if state.closed_at is None else 0
