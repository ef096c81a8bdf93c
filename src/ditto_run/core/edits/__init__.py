"""Changes to a plan: one small value a change, one function that makes the next plan of it."""

from ditto_run.core.edits.assigning import AssignSizes
from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.edits.family import make_sibling, plan_like, sibling_sizes
from ditto_run.core.edits.feature_lines import AddFeatureLines, SetFeatureForm, SetFeatureLine
from ditto_run.core.edits.figures import GiveBack, GiveBackSize, GiveBackTimes, SetFigure
from ditto_run.core.edits.hold import OverrideFinding, RemoveFeature, RemoveOverride, SetFeature, SetForm
from ditto_run.core.edits.line_up import LineUp
from ditto_run.core.edits.lines import AddSetupLines, AddToolLines
from ditto_run.core.edits.making import (
    MoveCut,
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
from ditto_run.core.edits.place import (
    ChangePlaced,
    CopyPlaced,
    MovePlaced,
    PlaceHolder,
    RemovePlaced,
    SetLayout,
)
from ditto_run.core.edits.programs import GiveUpProgram, SetProgram, SetTrouble
from ditto_run.core.edits.sheets import (
    KeepSheet,
    KeepSheets,
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
from ditto_run.core.edits.together import AddPart, RemoveCycle, RemovePart, SetCycle
from ditto_run.core.edits.visiting import RemoveVisitRule, SetGoing, SetVisitRule, SetVisits
from ditto_run.core.plan import Changed

Edit = (
    SetHeading
    | SetCharacteristic
    | AddCharacteristics
    | RemoveCharacteristic
    | SetSetup
    | MoveCut
    | MoveSetup
    | RemoveSetup
    | SetStation
    | RemoveStation
    | SetToolStep
    | MoveToolStep
    | RemoveToolStep
    | KeepSheet
    | KeepSheets
    | RemoveSheet
    | SetFinish
    | RemoveFinish
    | SetStockSize
    | RemoveStockSize
    | SetKitPart
    | RemoveKitPart
    | SetWay
    | SetOrder
    | RemoveOrder
    | AddWays
    | RemoveWay
    | SetFeature
    | SetFeatureForm
    | SetFeatureLine
    | AddFeatureLines
    | RemoveFeature
    | SetForm
    | OverrideFinding
    | RemoveOverride
    | ChooseWay
    | SetLayout
    | PlaceHolder
    | MovePlaced
    | ChangePlaced
    | CopyPlaced
    | RemovePlaced
    | LineUp
    | AddPart
    | RemovePart
    | SetCycle
    | RemoveCycle
    | SetVisits
    | SetVisitRule
    | RemoveVisitRule
    | SetGoing
    | SetProgram
    | GiveUpProgram
    | SetTrouble
    | AddSetupLines
    | AddToolLines
    | SetFigure
    | GiveBack
    | GiveBackSize
    | GiveBackTimes
    | AssignSizes
)

__all__ = [
    "AddCharacteristics",
    "AddFeatureLines",
    "AddPart",
    "AddSetupLines",
    "AddToolLines",
    "AddWays",
    "AssignSizes",
    "ChangePlaced",
    "Changed",
    "ChooseWay",
    "CopyPlaced",
    "Edit",
    "GiveBack",
    "GiveBackSize",
    "GiveBackTimes",
    "GiveUpProgram",
    "KeepSheet",
    "KeepSheets",
    "LineUp",
    "MoveCut",
    "MovePlaced",
    "MoveSetup",
    "MoveToolStep",
    "OverrideFinding",
    "PlaceHolder",
    "PlanRegisters",
    "RemoveCharacteristic",
    "RemoveCycle",
    "RemoveFeature",
    "RemoveFinish",
    "RemoveKitPart",
    "RemoveOrder",
    "RemoveOverride",
    "RemovePart",
    "RemovePlaced",
    "RemoveSetup",
    "RemoveSheet",
    "RemoveStation",
    "RemoveStockSize",
    "RemoveToolStep",
    "RemoveVisitRule",
    "RemoveWay",
    "SetCharacteristic",
    "SetCycle",
    "SetFeature",
    "SetFeatureForm",
    "SetFeatureLine",
    "SetFigure",
    "SetFinish",
    "SetForm",
    "SetGoing",
    "SetHeading",
    "SetKitPart",
    "SetLayout",
    "SetOrder",
    "SetProgram",
    "SetSetup",
    "SetStation",
    "SetStockSize",
    "SetToolStep",
    "SetTrouble",
    "SetVisitRule",
    "SetVisits",
    "SetWay",
    "apply_edit",
    "make_sibling",
    "plan_like",
    "sibling_sizes",
]
