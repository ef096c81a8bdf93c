"""The same things as JSON, under /api/v1. Everything the pages do can be scripted here."""

from fastapi import APIRouter

from ditto_run.web.api import devices, drawers, jobs, place, planning, program, questions, runs, shop, weave

router = APIRouter()
for module in (devices, drawers, shop, jobs, planning, questions, place, program, runs, weave):
    router.include_router(module.router)
