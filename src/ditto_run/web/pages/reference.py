"""Reference pages: all keys and shapes, all components."""

from urllib.parse import urlsplit

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.run.strip import Mark
from ditto_run.core.steps import STEPS
from ditto_run.web.dependencies import RenderDep
from ditto_run.web.drawings.glyphs import WORDS, glyph
from ditto_run.web.help import help_of
from ditto_run.web.keys import KEYS

router = APIRouter()


@router.get("/keys", name="keys_page")
def keys_page(render: RenderDep) -> HTMLResponse:
    """Show all keys and shapes, with the switch for single letters and the sound."""
    came_from = urlsplit(render.request.headers.get("Referer", ""))
    ours = came_from.netloc == render.request.headers.get("Host") and came_from.path != "/keys"
    return render("reference/keys.html", keys=KEYS, words=WORDS, back=came_from.path if ours else "/")


@router.get("/help/{step}", name="help_page")
def help_page(step: str, render: RenderDep) -> HTMLResponse:
    """Show what is written about a step."""
    title, text = help_of(step)
    came_from = urlsplit(render.request.headers.get("Referer", ""))
    ours = came_from.netloc == render.request.headers.get("Host") and not came_from.path.startswith("/help/")
    back = f"{came_from.path}?{came_from.query}" if came_from.query else came_from.path
    steps = [(one.name, one.word) for one in STEPS]
    return render(
        "reference/help.html", title=title, text=text, step_name=step, steps=steps, back=back if ours else "/"
    )


@router.get("/codes", name="codes_page")
def codes_page(render: RenderDep) -> HTMLResponse:
    """Show every component and shape code once."""
    shapes = [(slip, glyph(Mark(0, "slip", slip, 2), 24, 26)) for slip in (-1.0, -0.6, 0.5, 0.9)]
    return render("reference/codes.html", words=WORDS, shapes=shapes)
