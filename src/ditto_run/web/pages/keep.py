"""Backup, restore, and bringing a job in."""

from typing import Annotated

from fastapi import APIRouter, File, UploadFile
from fastapi.responses import RedirectResponse, Response

from ditto_run.web.dependencies import DeskDep
from ditto_run.web.files import download
from ditto_run.web.told import told

router = APIRouter()


@router.get("/backup", name="backup")
def backup(desk: DeskDep) -> Response:
    """Download the whole shop as one file."""
    return download(
        desk.backups.content(), f"ditto-run-{desk.now:%Y-%m-%d}.backup", "application/octet-stream"
    )


@router.post("/restore", name="restore")
def restore_shop(file: Annotated[UploadFile, File()], desk: DeskDep) -> Response:
    """Put a backup in the place of everything that is here."""
    desk.backups.restore(file.file.read())
    return told(RedirectResponse("/", 303), "The backup stands in the place of what was here.")


@router.post("/jobs/import", name="import_job")
def import_job(file: Annotated[UploadFile, File()], desk: DeskDep) -> Response:
    """Bring in a job from a bundle."""
    job_id = desk.bundles.read(file.file.read())
    return told(RedirectResponse(f"/jobs/{job_id}", 303), "The job is brought in.")
