"""A browserless client of a shop of its own."""

from collections.abc import Iterator

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.desk import Desk
from tests.web.placed import lay_out


def flat(page: str) -> str:
    """Return a page with every run of blanks as one: where a line of a template ends is nobody's business."""
    return " ".join(page.split())


@pytest.fixture
def client(desk: Desk, clock) -> Iterator[TestClient]:
    with TestClient(create_app(desk.settings, desk), "http://127.0.0.1", cookies={"who": "RK"}) as found:
        yield found


@pytest.fixture
def placed_job(desk: Desk) -> int:
    """A job with two vises and a pallet on a measured table; its setup has key 1, its machine number 2."""
    return lay_out(desk)
