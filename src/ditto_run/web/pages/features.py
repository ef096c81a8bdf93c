"""The part as it is described: its features in shop language, drawn to scale, and what follows from them."""

from dataclasses import replace
from typing import Annotated, Any, Literal

from fastapi import APIRouter, File, Form, Query, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.edits.feature_lines import form_of_line
from ditto_run.core.entry.quantity import quantity_text
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.part import Characteristic
from ditto_run.core.part.faces import FACES
from ditto_run.core.part.faces import Form as PartForm
from ditto_run.core.part.features import KINDS, Described, Named, read_feature
from ditto_run.core.part.shape.measures import Measures, known_measures, shape_part
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import density_of
from ditto_run.core.sizes import size_text
from ditto_run.core.units import LengthUnit, length_text, volume_text
from ditto_run.desk import Desk
from ditto_run.formats.csv_tables import decode
from ditto_run.formats.dxf import MOST_BYTES
from ditto_run.formats.part_drawing import lines_of_drawing, lines_of_table
from ditto_run.web.dependencies import DeskDep, Render, RenderDep
from ditto_run.web.drawings import PartPicture
from ditto_run.web.pages.planning import step_page

WHOLE_SIZES = {"length", "width", "height", "diameter"}
EXAMPLES: dict[tuple[str, LengthUnit], tuple[str, ...]] = {
    ("block", "mm"): (
        "block 60 x 40 x 31.5",
        "bore 12 H7 through, 16 from left, in the middle, top",
        "slot 20 ±0.03 x 12 deep, full length, top",
    ),
    ("block", "in"): (
        "block 2-1/2 x 1-1/2 x 1.250",
        "bore .500 +.001/-.000 through, .625 from left, in the middle, top",
        "slot 3/4 x .500 deep, full length, top",
    ),
    ("turned", "mm"): (
        "body Ø20 x 86",
        "shoulder 12 h6 x 30",
        "groove 3 wide to Ø9 at 20",
        "M8 x 20 long, free end",
    ),
    ("turned", "in"): (
        "body Ø3/4 x 3.400",
        "shoulder .4375 ±.001 x 1.250",
        "groove .125 wide to Ø.350 at .750",
        "3/8-16 x 3/4 deep, both ends",
    ),
}
router = APIRouter(prefix="/jobs/{job_id}")


def part_picture(plan: Plan, angle: str, picked: int = 0, typed: Described | None = None) -> PartPicture:
    """Return the drawing of a part, with the feature that is picked or typed."""
    named = plan.described
    shaped = shape_part([one for one in named if typed is None or one.key != picked], plan.form)
    sizes = {c.number: c for c in plan.characteristics}
    carried = {f.key: sizes[f.characteristic] for f in plan.features if f.characteristic in sizes}
    picture = PartPicture(
        shaped,
        plan.heading.unit,
        {key: c.number for key, c in carried.items()},
        {key: _bare(c) for key, c in carried.items()},
        picked,
        angle,
        whole={
            c.name.lower(): (c.number, _bare(c))
            for c in plan.characteristics
            if c.name.lower() in WHOLE_SIZES
        },
    )
    if typed is None or not typed.kind:
        return picture
    whole = shape_part([*[one for one in named if one.key != picked], Named(0, "typed", typed)], plan.form)
    if shaped.body is None:
        return replace(picture, shaped=whole)
    return replace(picture, typed=whole.laid(0))


def _bare(c: Characteristic) -> str:
    """A size as the drawing says it, without its unit."""
    return size_text(c.drawing).removesuffix(" mm").removesuffix(" in")


def told_of(plan: Plan, found: Measures | None, density: float | None) -> list[tuple[str, str]]:
    """Return what follows from the part, each with its word."""
    if found is None:
        return []
    unit = plan.heading.unit
    about = "about " if found.about else ""
    said = [("volume", about + volume_text(found.volume / 1000, unit))]
    if density is not None:
        said.append(("mass", about + quantity_text("mass", found.mass_g(density) / 1000, unit, fine=True)))
    if found.wall is not None:
        between = " to ".join(found.wall.between)
        said.append((f"thinnest wall, {between}", length_text(found.wall.thick, unit)))
    thick = "thick" if plan.form == "turned" else "wide or high"
    said.append((f"times as long as {thick}", f"{found.slenderness:.1f}"))
    return said


@router.get("/part/features", name="part_features")
def show_features(job_id: int, desk: DeskDep, render: RenderDep, edit: int = 0) -> HTMLResponse:
    """Show the part with its features; `edit` opens one."""
    return _features_page(job_id, desk, render, edit)


@router.post("/part/features-read", name="features_read")
def read_file(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    drawn_in: Annotated[Literal["", "mm", "in"], Form()] = "",
    table: Annotated[str, Form(max_length=200_000)] = "",
    file: Annotated[UploadFile | None, File()] = None,
) -> HTMLResponse:
    """Read a drawing or a table into lines, shown to be read over; nothing is added before."""
    plan = desk.jobs.load(job_id).plan
    if file is not None and file.filename and file.filename.lower().endswith(".dxf"):
        lines = lines_of_drawing(file.file.read(MOST_BYTES + 1), plan.form, drawn_in, plan.heading.unit)
    else:
        text = decode(file.file.read(MOST_BYTES)) if file is not None and file.filename else table
        if not text.strip():
            raise BadEntry(
                "There is no file, and no rows are pasted.",
                "Choose a DXF drawing or a CSV file, or paste rows.",
                "table",
            )
        lines = lines_of_table(text)
    return _features_page(job_id, desk, render, 0, "\n".join(lines))


def _features_page(job_id: int, desk: Desk, render: Render, edit: int, many: str = "") -> HTMLResponse:
    plan = desk.jobs.load(job_id).plan
    return step_page(
        "part",
        job_id,
        desk,
        render,
        template="part/features.html",
        view="features",
        editing=edit,
        many=many,
        kinds_here=[
            kind.name for kind in KINDS.values() if plan.form in kind.forms and kind.name != "by hand"
        ],
        **drawn_part(desk, plan, edit),
    )


def drawn_part(desk: Desk, plan: Plan, picked: int) -> dict[str, Any]:
    """Return what a page needs to draw the part and to say what follows from it, with the feature that is picked."""
    picture = part_picture(plan, desk.shop.load().angle, picked)
    found = known_measures(plan.described, plan.form)
    density = density_of(plan.heading.material, (row.value for row in desk.drawers.rows("materials")))
    return {
        "examples": EXAMPLES[plan.form, plan.heading.unit],
        "turned_example": EXAMPLES["turned", plan.heading.unit][0],
        "faces_here": FACES[plan.form],
        "opened": {one.key: one.feature.open for one in plan.described},
        "laid": {one.key: one for one in picture.shaped.features},
        "picture": picture,
        "measures": found,
        "follows": told_of(plan, found, density),
    }


@router.get("/hold/features", name="hold_features")
def moved_features(job_id: int) -> Response:
    """Lead an address that was kept from before to where the features stand now."""
    return RedirectResponse(f"/jobs/{job_id}/part/features", 301)


@router.get("/part/feature", name="feature_read")
def feature_read(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    line: Annotated[str, Query(max_length=24_000)] = "",
    key: int = 0,
    part_form: PartForm | None = None,
) -> HTMLResponse:
    """Show how a feature is understood, piece by piece and on the picture, while its line is typed."""
    plan = desk.jobs.load(job_id).plan
    plan = replace(plan, form=form_of_line(plan, line, part_form))
    found = refused = None
    try:
        found = read_feature(line, plan.form, plan.heading.unit) if line.strip() else None
    except DittoError as problem:
        refused = problem
    picture = part_picture(plan, desk.shop.load().angle, key, found)
    return render("part/_feature_read.html", found=found, refused=refused, picture=picture, plan=plan)
