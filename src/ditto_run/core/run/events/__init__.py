"""Everything that can happen in a run: what a person wants (Command), and the line that records it (Body).

The log is these lines and nothing else; a line is never changed or removed, a correction or an undo is a further one.
Field names are the names in the log, the API and the bundle, so they are kept once released; a line written by an
older version is completed by the defaults when it is read, never rewritten.
"""

from dataclasses import dataclass
from datetime import datetime

from ditto_run.core.run.events.adjustment import Adjust, Adjustment, Moved, register_change
from ditto_run.core.run.events.after_trip import GaugeAfter, GaugedAfter
from ditto_run.core.run.events.base import Now, apply, decide, sentence
from ditto_run.core.run.events.breaks import Break, MarkBreak
from ditto_run.core.run.events.by_hand import HandDone, WorkByHand
from ditto_run.core.run.events.cause import CAUSES, CauseSaid, SayCause, StopWritten, WriteStop
from ditto_run.core.run.events.closing import CloseRun, RunClosed
from ditto_run.core.run.events.composition import Composition, SetComposition
from ditto_run.core.run.events.correction import Correction, CorrectReading
from ditto_run.core.run.events.costing import COSTS, CostSaid, SayCost
from ditto_run.core.run.events.cycle import CycleEnded, CycleStarted, EndCycle, LeftTurn, StartCycle
from ditto_run.core.run.events.disposition import Dispose, Disposition
from ditto_run.core.run.events.fact import FactSaid, SayFact
from ditto_run.core.run.events.hold import Hold, HoldPieces
from ditto_run.core.run.events.late import EnterLoads, LoadsEntered
from ditto_run.core.run.events.lesson import PLACES, LessonKept, PutLesson
from ditto_run.core.run.events.looked import HoldLookedAt, LookAtHold, MasterTried, TryMaster
from ditto_run.core.run.events.master import AcceptMaster, MasterAccepted
from ditto_run.core.run.events.note import AddNote, Note
from ditto_run.core.run.events.proof import ProofTicked, TickProof
from ditto_run.core.run.events.reading import Reading, TakeGo, TakeReading
from ditto_run.core.run.events.reopening import ReopenRun, RunReopened
from ditto_run.core.run.events.revision import PlanRevised, TakeRevision
from ditto_run.core.run.events.sampling import Excuse, Excused, GaugeEvery, GiveSize, SamplingSet, SizeGiven
from ditto_run.core.run.events.setting import ChangeSetting, SettingChanged
from ditto_run.core.run.events.setup import OpenSetup, SetupOpened
from ditto_run.core.run.events.starting import RunStarted, start_run
from ditto_run.core.run.events.taken import Taken, TakeUngauged
from ditto_run.core.run.events.tray import CountTray, TrayCounted
from ditto_run.core.run.events.tried import HOW_FITS, ProvedFunction, ProveFunction, TriedFit, TryFit
from ditto_run.core.run.events.trip import CameBack, ComeBack, SendOut, SentOut
from ditto_run.core.run.events.undo import Redo, Redone, Undo, Undone, redoable, undoable
from ditto_run.core.run.events.warmth import SayWarmth, WarmthSaid
from ditto_run.core.run.line import Identity, Loaded, Outcome

Command = (
    StartCycle
    | EndCycle
    | TakeReading
    | TakeGo
    | CorrectReading
    | AcceptMaster
    | Adjust
    | ChangeSetting
    | MarkBreak
    | HoldPieces
    | Dispose
    | TakeUngauged
    | GiveSize
    | GaugeEvery
    | Excuse
    | AddNote
    | TickProof
    | TryMaster
    | LookAtHold
    | SayCause
    | SayCost
    | SayWarmth
    | SendOut
    | ComeBack
    | GaugeAfter
    | TryFit
    | ProveFunction
    | CountTray
    | SayFact
    | WorkByHand
    | PutLesson
    | WriteStop
    | SetComposition
    | EnterLoads
    | OpenSetup
    | TakeRevision
    | Undo
    | Redo
    | CloseRun
    | ReopenRun
)
"""Everything a person can do in a run."""

Body = (
    RunStarted
    | PlanRevised
    | SetupOpened
    | CycleStarted
    | CycleEnded
    | LoadsEntered
    | Composition
    | Reading
    | Correction
    | MasterAccepted
    | Adjustment
    | SettingChanged
    | Break
    | Hold
    | Disposition
    | Taken
    | SizeGiven
    | SamplingSet
    | Excused
    | Note
    | ProofTicked
    | MasterTried
    | HoldLookedAt
    | CauseSaid
    | CostSaid
    | WarmthSaid
    | SentOut
    | CameBack
    | GaugedAfter
    | TriedFit
    | ProvedFunction
    | TrayCounted
    | FactSaid
    | HandDone
    | LessonKept
    | StopWritten
    | Undone
    | Redone
    | RunClosed
    | RunReopened
)
"""Everything a log can hold."""


@dataclass(frozen=True, slots=True)
class Event:
    """One line of the log.

    Args:
        seq: its number in the run, from 1.
        at: when, with time zone.
        who: initials.
        client_key: chosen by whoever sent it, so that sending it twice does nothing more.
        body: what happened.
    """

    seq: int
    at: datetime
    who: str
    client_key: str
    body: Body


__all__ = [
    "CAUSES",
    "COSTS",
    "HOW_FITS",
    "PLACES",
    "AcceptMaster",
    "AddNote",
    "Adjust",
    "Adjustment",
    "Body",
    "Break",
    "CameBack",
    "CauseSaid",
    "ChangeSetting",
    "CloseRun",
    "ComeBack",
    "Command",
    "Composition",
    "CorrectReading",
    "Correction",
    "CostSaid",
    "CountTray",
    "CycleEnded",
    "CycleStarted",
    "Dispose",
    "Disposition",
    "EndCycle",
    "EnterLoads",
    "Event",
    "Excuse",
    "Excused",
    "FactSaid",
    "GaugeAfter",
    "GaugeEvery",
    "GaugedAfter",
    "GiveSize",
    "HandDone",
    "Hold",
    "HoldLookedAt",
    "HoldPieces",
    "Identity",
    "LeftTurn",
    "LessonKept",
    "Loaded",
    "LoadsEntered",
    "LookAtHold",
    "MarkBreak",
    "MasterAccepted",
    "MasterTried",
    "Moved",
    "Note",
    "Now",
    "OpenSetup",
    "Outcome",
    "PlanRevised",
    "ProofTicked",
    "ProveFunction",
    "ProvedFunction",
    "PutLesson",
    "Reading",
    "Redo",
    "Redone",
    "ReopenRun",
    "RunClosed",
    "RunReopened",
    "RunStarted",
    "SamplingSet",
    "SayCause",
    "SayCost",
    "SayFact",
    "SayWarmth",
    "SendOut",
    "SentOut",
    "SetComposition",
    "SettingChanged",
    "SetupOpened",
    "SizeGiven",
    "StartCycle",
    "StopWritten",
    "TakeGo",
    "TakeReading",
    "TakeRevision",
    "TakeUngauged",
    "Taken",
    "TickProof",
    "TrayCounted",
    "TriedFit",
    "TryFit",
    "TryMaster",
    "Undo",
    "Undone",
    "WarmthSaid",
    "WorkByHand",
    "WriteStop",
    "apply",
    "decide",
    "redoable",
    "register_change",
    "sentence",
    "start_run",
    "undoable",
]
