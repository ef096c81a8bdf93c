"""Changes to features, the form of the part, centre holes, and findings overridden with a note."""

from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.feature_lines import MOST_FEATURES
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.findings import NEVER
from ditto_run.core.hold import Centre, Feature, FeatureKind, Form, check_feature
from ditto_run.core.plan import Changed, Override, Plan


@dataclass(frozen=True, slots=True)
class SetFeature:
    """Add a feature, or change the one of that key."""

    name: str
    face: str = "top"
    feature_kind: FeatureKind = "face"
    refers: tuple[str, ...] = ()
    one_sided: bool = False
    characteristic: int | None = None
    key: int | None = None
    supplied: bool = False
    kind: Literal["set_feature"] = "set_feature"


@dataclass(frozen=True, slots=True)
class RemoveFeature:
    """Take a feature away, and out of the setups that made it."""

    key: int
    kind: Literal["remove_feature"] = "remove_feature"


@dataclass(frozen=True, slots=True)
class SetForm:
    """Say whether the part is a block or turned, and what each end wants of a centre hole."""

    part_form: Form
    free_end: Centre = "allowed"
    chuck_end: Centre = "allowed"
    kind: Literal["set_form"] = "set_form"


@dataclass(frozen=True, slots=True)
class OverrideFinding:
    """Let a finding stand with a note; it is asked again when its ground changes.

    Args:
        problem: its sentence.
        note: why it may stand.
        who: whose change it is.
        initials: typed beside the note; wanted for weight stop.
        code, thing, ground, weight: of the finding.
    """

    problem: str
    note: str = ""
    who: str = ""
    initials: str = ""
    code: str = ""
    thing: str = ""
    ground: str = ""
    weight: str = ""
    kind: Literal["override_finding"] = "override_finding"


@dataclass(frozen=True, slots=True)
class RemoveOverride:
    """Take an override back."""

    problem: str
    kind: Literal["remove_override"] = "remove_override"


@apply_edit.register
def _set_feature(edit: SetFeature, plan: Plan, _shop: PlanRegisters) -> Changed:
    others = tuple(feature for feature in plan.features if feature.key != edit.key)
    if edit.characteristic is not None:
        plan.characteristic(edit.characteristic)
    if edit.key is None and len(others) >= MOST_FEATURES:
        raise BadEntry(f"{MOST_FEATURES} features are the most.", "Group some of them.", "name")
    new = check_feature(
        Feature(
            plan.number_for(Feature, edit.key),
            edit.name.strip()[:40],
            edit.face,
            edit.feature_kind,
            edit.refers,
            edit.one_sided,
            edit.characteristic,
            _line_still_true(edit, plan),
            edit.supplied,
        ),
        others,
        plan.form,
    )
    return Changed(plan.put(new), f"feature {new.name}")


def _line_still_true(edit: SetFeature, plan: Plan) -> str:
    """The line it was described by, unless its kind or face is now another."""
    if edit.key is None:
        return ""
    was = plan.feature(edit.key)
    return was.line if (was.kind, was.face) == (edit.feature_kind, edit.face) else ""


@apply_edit.register
def _remove_feature(edit: RemoveFeature, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.feature(edit.key)
    setups = tuple(
        replace(setup, cuts=tuple(key for key in setup.cuts if key != edit.key)) for setup in plan.setups
    )
    figures = tuple(figure for figure in plan.figures if figure.thing != f"feature {edit.key}")
    steps = tuple(
        replace(step, makes=tuple(key for key in step.makes if key != edit.key)) for step in plan.tool_steps
    )
    kept = replace(plan.without(gone), setups=setups, figures=figures, tool_steps=steps)
    return Changed(kept, f"removed {gone.name}")


@apply_edit.register
def _set_form(edit: SetForm, plan: Plan, _shop: PlanRegisters) -> Changed:
    if edit.part_form != plan.form and plan.features:
        raise BadEntry(
            f"The features lie on faces of a {plan.form} part.",
            "Remove them before the form changes.",
            "part_form",
        )
    wishes = (
        (("free end", edit.free_end), ("chuck end", edit.chuck_end)) if edit.part_form == "turned" else ()
    )
    return Changed(replace(plan, form=edit.part_form, centres=dict(wishes)), f"the part is {edit.part_form}")


@apply_edit.register
def _override(edit: OverrideFinding, plan: Plan, _shop: PlanRegisters) -> Changed:
    if edit.code in NEVER:
        raise NotNow("This yields to no note.", "It goes when the thing is done.")
    if not edit.note.strip():
        raise BadEntry("An override wants a note.", "One sentence: why it is right all the same.", "note")
    if edit.weight == "stop" and not edit.initials.strip():
        raise BadEntry("This wants your initials.", "Type them beside the note.", "initials")
    who = (edit.initials.strip() or edit.who.strip())[:4].upper()
    new = Override(edit.problem[:400], edit.note.strip()[:300], who, edit.code, edit.thing, edit.ground)
    kept = tuple(
        override
        for override in plan.overrides
        if override.problem != new.problem
        and (not new.code or (override.code, override.thing) != (new.code, new.thing))
    )
    return Changed(replace(plan, overrides=(*kept, new)), f"let stand: {edit.problem[:60]}")


@apply_edit.register
def _remove_override(edit: RemoveOverride, plan: Plan, _shop: PlanRegisters) -> Changed:
    kept = tuple(override for override in plan.overrides if override.problem != edit.problem)
    return Changed(replace(plan, overrides=kept), "took an override back")
