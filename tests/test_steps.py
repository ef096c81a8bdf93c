"""One word for one idea in every layer: folders, pages, templates, tests and help hold to the table of steps."""

from pathlib import Path

import pytest

from ditto_run.core.steps import STEPS, StepState

ROOT = Path(__file__).parents[1]
APP = ROOT / "src/ditto_run"
BUILT = [step.name for step in STEPS]


def test_nine_steps_in_the_order_of_the_work() -> None:
    assert [step.number for step in STEPS] == list(range(1, 10))
    assert [step.word for step in STEPS] == [
        "Part",
        "Method",
        "Stock",
        "Hold",
        "Place",
        "Tools",
        "Prove",
        "Run",
        "Close",
    ]


@pytest.mark.parametrize("name", BUILT)
def test_whoever_knows_the_step_finds_everything(name: str) -> None:
    assert (APP / "core" / name / "__init__.py").exists()
    assert (APP / "web/pages" / f"{name}.py").exists()
    assert list((APP / "web/templates" / name).glob("*.html"))
    assert (ROOT / "docs/steps" / f"{name}.md").read_text().startswith(f"# {name.capitalize()}")
    tested = list((ROOT / "tests/core" / name).glob("test_*.py"))
    assert tested or name == "hold"  # hold has one list of findings, tested with place


def test_states_are_said_in_words() -> None:
    assert StepState(STEPS[0], "open", 2).words == "2 open"
    assert StepState(STEPS[0], "settled").words == "settled"


def test_every_template_says_what_it_needs() -> None:
    for path in (APP / "web/templates").rglob("*.html"):
        assert path.read_text().startswith("{#"), path
