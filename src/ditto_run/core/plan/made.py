"""What the tool steps of a setup make, held to what the setup cuts."""

from ditto_run.core.findings import Finding
from ditto_run.core.hold import Setup
from ditto_run.core.plan.document import Plan


def made_findings(plan: Plan, setup: Setup) -> list[Finding]:
    """Return the questions about features that no tool step of their setup makes, and steps for features it does not cut.

    A setup of which no step says what it makes is left alone: nobody has said it.

    Args:
        plan: with the tool steps.
        setup: which.
    """
    steps = plan.tools_of(setup.key)
    if not any(step.makes for step in steps):
        return []
    names = {feature.key: feature.name for feature in plan.features}
    thing = f"setup {setup.key}"
    made = {key for step in steps for key in step.makes}
    found = [
        Finding(
            "tools",
            "ask",
            "not-made",
            f"{setup.name}: no tool step makes {names[key]}.",
            "Add its tool, or say at a step that it makes it too.",
            thing,
            f"not made {key}",
        )
        for key in setup.cuts
        if key not in made and key in names
    ]
    for step in steps:
        strange = next((key for key in step.makes if key not in setup.cuts and key in names), None)
        if strange is not None:
            found.append(
                Finding(
                    "tools",
                    "ask",
                    "makes-elsewhere",
                    f"{setup.name}: {step.name} {step.does} makes {names[strange]}, which this setup does not cut.",
                    "Move the step to the setup that cuts it, or say on Hold that this one does.",
                    thing,
                    f"{step.key} makes {strange}",
                )
            )
    return found
