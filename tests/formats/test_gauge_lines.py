"""Lines of gauges over a cable: common practice, no source; what is no reading is refused."""

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.formats.gauge_lines import GaugeLine, read_line


@pytest.mark.parametrize(
    ("line", "found"),
    [
        ("20.013\r\n", GaugeLine("20.013", None)),
        ("+0020.0130 mm\r", GaugeLine("20.0130", "mm")),
        (" 0.7880 in\n", GaugeLine("0.7880", "in")),
        ('.7880"', None),
        ("01A+00020.0130", GaugeLine("20.0130", None, "01A")),
        ("-0.003", GaugeLine("-0.003", None)),
        ("G1 -0,5", GaugeLine("-0.5", None, "G1")),
        ("12", GaugeLine("12", None)),
    ],
)
def test_a_line_is_read_with_its_unit_and_channel(line: str, found: GaugeLine | None) -> None:
    if found is None:
        with pytest.raises(BadEntry):
            read_line(line)
    else:
        assert read_line(line) == found


@pytest.mark.parametrize(
    "line", ["", "\n", "ERR 2", "20.013 20.014", "20.0.1", "1" * 70, "20.013 kg", "NaN", "２０.０"]
)
def test_what_is_no_reading_is_refused(line: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_line(line)
    assert refused.value.field == "text"
