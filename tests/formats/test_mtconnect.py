"""Documents of a machine's agent: read in the order of their numbers; what is none is refused in a sentence."""

from datetime import UTC, datetime

import pytest

from ditto_run.core.errors import FileNotRead
from ditto_run.formats.mtconnect import read_streams

DOCUMENT = """<?xml version="1.0"?><MTConnectStreams xmlns="urn:mtconnect.org:MTConnectStreams:1.3"><Header instanceId="77" nextSequence="9"/>
<Streams><DeviceStream name="m"><ComponentStream component="Path"><Events>
<Execution dataItemId="e" timestamp="2026-05-12T07:00:02.1234567Z" sequence="7">ACTIVE</Execution>
<PartCount dataItemId="p" timestamp="2026-05-12T07:00:01Z" sequence="6"> 12 </PartCount></Events>
<Condition><Fault dataItemId="c" timestamp="2026-05-12T07:00:03Z" sequence="8" nativeCode="1042" type="SYSTEM">Spindle overload</Fault></Condition>
</ComponentStream></DeviceStream></Streams></MTConnectStreams>"""


def test_observations_come_in_order_with_their_moment() -> None:
    found = read_streams(DOCUMENT)
    assert (found.instance, found.next_sequence) == ("77", 9)
    assert [(one.sequence, one.item, one.value, one.native) for one in found.observed] == [
        (6, "PartCount", "12", ""),
        (7, "Execution", "ACTIVE", ""),
        (8, "Fault", "Spindle overload", "1042"),
    ]
    assert found.observed[1].at == datetime(2026, 5, 12, 7, 0, 2, 123456, tzinfo=UTC)


def test_one_without_number_or_moment_is_passed_by() -> None:
    text = DOCUMENT.replace('sequence="7"', "").replace("2026-05-12T07:00:01Z", "yesterday")
    assert [one.sequence for one in read_streams(text).observed] == [8]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "no XML"),
        ("<html><body>404</body></html>", "no document of streams"),
        ("<MTConnectStreams/>", "no document of streams"),
        ("<MTConnectStreams>", "no XML"),
        (
            "<MTConnectError><Errors><Error errorCode='OUT_OF_RANGE'>from is gone</Error></Errors></MTConnectError>",
            "from is gone",
        ),
        ('<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', "declares entities"),
        ("<a>" + "x" * 4_000_001, "longer than 4 MB"),
        ("\x00\x01", "no XML"),
    ],
)
def test_what_is_no_document_is_refused(text: str, said: str) -> None:
    with pytest.raises(FileNotRead) as refused:
        read_streams(text)
    assert said in refused.value.problem
