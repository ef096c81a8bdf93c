"""One machine's values in one file to keep elsewhere: offsets, layout, tool list, program files."""

import csv
import io
import zipfile
from collections.abc import Iterable, Mapping
from datetime import datetime

from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import standings
from ditto_run.core.shop import Machine
from ditto_run.formats.documents import BED
from ditto_run.formats.layout_dxf import write_layout
from ditto_run.formats.offset_table import write_offset_table
from ditto_run.formats.rs274 import write_offsets


def back_up_machine(
    machine: Machine,
    offsets: Mapping[str, Offset],
    plan: Plan,
    programs: Iterable[tuple[str, str]],
    at: datetime,
) -> bytes:
    """Return a ZIP archive: offsets as CSV and RS-274, table, layout of each setup as DXF, tools as CSV, programs.

    Args:
        machine: whose values they are.
        offsets: its register, by code.
        plan: the job whose layout, tools and programs go along.
        programs: name and text of each program file.
        at: when; the archive is stamped with it.
    """
    files: dict[str, str | bytes] = {"offsets.csv": write_offset_table(offsets.values())}
    text, left_out = write_offsets(offsets.values(), machine.dialect, machine.wear.unit, machine.name)
    files["offsets.nc"] = text
    files["read me.txt"] = _about(machine, plan, left_out, at)
    files["tools.csv"] = _tools(plan, machine.id)
    if machine.bed is not None:
        files["table.json"] = BED.dump_json(machine.bed, indent=1)
        for setup in plan.setups:
            here = next((c for c in plan.cycles_of(setup.key) if c.machine_id == machine.id), None)
            there = standings(plan, setup.key, machine.bed, here.key) if here else ()
            if any(standing.placed.setup == setup.key for standing in there):
                files[f"layout {_safe(setup.name)}.dxf"] = write_layout(machine.bed, there)
    files |= {f"programs/{_safe(name)}": content for name, content in programs}
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(zipfile.ZipInfo(name, at.timetuple()[:6]), content)
    return out.getvalue()


def _about(machine: Machine, plan: Plan, left_out: list[str], at: datetime) -> str:
    lines = [
        f"{machine.name}, {at:%d %b %Y %H:%M}",
        f"Job: {plan.heading.part}",
        "Offsets are those of the register, not read from the control.",
    ]
    if left_out:
        lines.append(f"Not in offsets.nc, because this control cannot set them so: {', '.join(left_out)}.")
    return "\n".join(lines) + "\n"


def _tools(plan: Plan, machine_id: int) -> str:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(("setup", "tool", "does", "cut_s", "change_s"))
    for setup in plan.setups:
        if setup.machine_id == machine_id:
            for step in plan.tools_of(setup.key):
                writer.writerow((setup.name, step.name, step.does, f"{step.cut_s:g}", f"{step.change_s:g}"))
    return out.getvalue()


def _safe(name: str) -> str:
    return "".join(c if c.isalnum() or c in " ._-" else "-" for c in name).strip(" .")[:80] or "file"
