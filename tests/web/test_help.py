"""What is written about a step is shown in the application: every step, no dead link, nothing that runs."""

import re

import pytest
from starlette.testclient import TestClient

from ditto_run.core.steps import STEPS
from ditto_run.web.help import help_of

WRITTEN = [step.name for step in STEPS]


@pytest.mark.parametrize("step", WRITTEN)
def test_every_step_is_explained_and_its_links_lead_somewhere(client: TestClient, step: str) -> None:
    page = client.get(f"/help/{step}")
    assert page.status_code == 200
    article = page.text.split('<article class="help">')[1].split("</article>")[0]
    assert ".md" not in article
    for address, anchor in re.findall(r'href="(/help/[a-z]+)(#[a-z0-9-]+)?"', article):
        there = client.get(address)
        assert there.status_code == 200
        assert not anchor or f'id="{anchor[1:]}"' in there.text


@pytest.mark.parametrize("step", ["nope", "method.md"])
def test_what_is_not_written_is_said_so(client: TestClient, step: str) -> None:
    assert client.get(f"/help/{step}").status_code == 404


def test_a_step_leads_to_its_help_and_the_help_back(client: TestClient) -> None:
    page = client.get("/help/hold", headers={"Referer": "http://127.0.0.1/jobs/1/hold?setup=3"})
    assert 'href="/jobs/1/hold?setup=3"' in page.text
    foreign = client.get("/help/hold", headers={"Referer": "http://elsewhere/x"})
    assert 'href="/" data-leave' in foreign.text


def test_raw_marks_in_a_document_stay_text() -> None:
    assert "<script" not in help_of("part")[1]
    assert help_of("part")[0] == "Part"
