"""What changed between two plans, in words."""

from dataclasses import fields
from typing import Any

from ditto_run.core.plan.document import Plan


def differences(before: Plan, after: Plan) -> list[str]:
    """Return what changed between two plans, a few words each: slot size 20 ±0.03 to 20 ±0.05; height taken out."""
    found = []
    for name in (
        "characteristics",
        "setups",
        "stations",
        "tool_steps",
        "features",
        "ways",
        "sheets",
        "placed",
        "cycles",
        "visits",
        "visit_rules",
        "goings",
        "programs",
        "troubles",
    ):
        old, new = ({_name_of(thing): thing for thing in getattr(plan, name)} for plan in (before, after))
        found += [f"added {key}" for key in new if key not in old]
        found += [f"took out {key}" for key in old if key not in new]
        for key in old:
            if key in new and old[key] != new[key]:
                found.append(f"{key} {_changed_fields(old[key], new[key])}")
    was, now = ({one.key: one.plan for one in plan.companions} for plan in (before, after))
    found += [f"added part {now[key].heading.part}" for key in now if key not in was]
    found += [f"took out part {was[key].heading.part}" for key in was if key not in now]
    for part, plan in was.items():
        if part in now and plan != now[part]:
            found += [f"{now[part].heading.part}: {one}" for one in differences(plan, now[part])]
    if before.heading != after.heading:
        found.append(f"head {_changed_fields(before.heading, after.heading)}")
    return found


def _name_of(thing: object) -> str:
    return str(
        getattr(thing, "name", "") or getattr(thing, "label", "") or getattr(thing, "does", "") or thing
    )


def _changed_fields(before: Any, after: Any) -> str:  # noqa: ANN401 - parts of a plan, all of them dataclasses
    said = []
    for name in (field.name for field in fields(before)):
        old, new = getattr(before, name), getattr(after, name)
        if old != new:
            said.append(f"{name.replace('_', ' ')} {_short(old)} to {_short(new)}")
    return ", ".join(said[:2])


def _short(value: object) -> str:
    text = getattr(value, "text", value)
    return "none" if text is None or text == "" else str(text)[:40]
