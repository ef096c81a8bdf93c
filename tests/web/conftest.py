"""A browserless client of a shop of its own."""

from collections.abc import Iterator

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.settings import Settings
from ditto_run.web.dependencies import Desk


@pytest.fixture
def client(desk: Desk, clock) -> Iterator[TestClient]:
    with TestClient(create_app(Settings(desk.settings.folder, clock=clock)), cookies={"who": "RK"}) as found:
        yield found
