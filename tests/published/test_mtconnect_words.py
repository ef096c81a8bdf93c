"""Words of states and items against a package generated from the standard's own model (pymtconnect, as it prints them)."""

from pymtconnect.Classes.MTConnectStreamsResponseDocument.Header import Header
from pymtconnect.Enums.DataTypes.ConditionStateEnum import ConditionStateEnum
from pymtconnect.Enums.DataTypes.EventEnum import EventEnum
from pymtconnect.Enums.DataTypes.ExecutionEnum import ExecutionEnum
from pymtconnect.Enums.DataTypes.SampleEnum import SampleEnum

from ditto_run.devices.listening import BEGINS, BETWEEN, ENDS
from ditto_run.devices.machine import CONDITIONS, ITEMS, SimulatedMachine
from ditto_run.formats.mtconnect import read_streams
from tests.conftest import MORNING


def test_every_state_of_execution_has_one_meaning_here() -> None:
    ours = [*BEGINS, *ENDS, *BETWEEN]
    assert sorted(ours) == sorted({one.value for one in ExecutionEnum})


def test_the_stand_in_speaks_of_items_the_standard_knows() -> None:
    known = {one.value for one in EventEnum} | {one.value for one in SampleEnum}
    assert {kind for category, kind in ITEMS if category != "CONDITION"} <= known
    assert {one.upper() for one in CONDITIONS} == {one.value for one in ConditionStateEnum}


def test_its_header_names_what_the_model_does() -> None:
    machine = SimulatedMachine("Mill 2", lambda: MORNING, 60.0)
    names = {name.lower().replace("_", "") for name in dir(Header) if not name.startswith("_")}
    names |= {name.lower().replace("_", "") for name in getattr(Header, "__annotations__", {})}
    header = machine.sample(1).partition("<Header ")[2].partition("/>")[0]
    mine = {pair.partition("=")[0].lower() for pair in header.split() if "=" in pair}
    assert mine <= names, mine - names
    assert read_streams(machine.sample(1)).instance == "1"
