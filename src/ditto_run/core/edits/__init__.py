"""Changes to a plan: one small value a change, one function that makes the next plan of it."""

from ditto_run.core.edits.base import Changed, Registers, apply_edit
from ditto_run.core.edits.family import make_sibling
from ditto_run.core.edits.hold import OverrideFinding, RemoveFeature, RemoveOverride, SetFeature, SetForm
from ditto_run.core.edits.making import (
    MoveSetup,
    MoveToolStep,
    RemoveSetup,
    RemoveStation,
    RemoveToolStep,
    SetSetup,
    SetStation,
    SetToolStep,
)
from ditto_run.core.edits.method import AddWays, ChooseWay, RemoveWay, SetWay
from ditto_run.core.edits.part import AddCharacteristics, RemoveCharacteristic, SetCharacteristic, SetHeading
from ditto_run.core.edits.sheets import (
    KeepSheet,
    RemoveFinish,
    RemoveKitPart,
    RemoveOrder,
    RemoveSheet,
    RemoveStockSize,
    SetFinish,
    SetKitPart,
    SetOrder,
    SetStockSize,
)

Edit = (
    SetHeading | SetCharacteristic | AddCharacteristics | RemoveCharacteristic | SetSetup | MoveSetup | RemoveSetup
    | SetStation | RemoveStation | SetToolStep | MoveToolStep | RemoveToolStep | KeepSheet | RemoveSheet | SetFinish
    | RemoveFinish | SetStockSize | RemoveStockSize | SetKitPart | RemoveKitPart | SetWay | SetOrder
    | RemoveOrder | AddWays | RemoveWay | SetFeature | RemoveFeature | SetForm | OverrideFinding
    | RemoveOverride | ChooseWay
)  # fmt: skip

__all__ = [
    "AddCharacteristics", "AddWays", "Changed", "ChooseWay", "Edit", "KeepSheet", "MoveSetup", "MoveToolStep", "OverrideFinding",
    "Registers", "RemoveCharacteristic", "RemoveFeature", "RemoveFinish", "RemoveKitPart", "RemoveOrder", "RemoveOverride", "RemoveSetup", "RemoveSheet", "RemoveStation",
    "RemoveStockSize", "RemoveToolStep", "RemoveWay", "SetCharacteristic", "SetFeature", "SetFinish", "SetForm", "SetHeading", "SetKitPart", "SetOrder",
    "SetSetup", "SetStation", "SetStockSize", "SetToolStep", "SetWay", "apply_edit", "make_sibling",
]  # fmt: skip
