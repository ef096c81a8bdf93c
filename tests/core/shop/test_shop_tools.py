"""The register of tools: numbers, lives, insert codes; what cannot be read is said at its column."""

from decimal import Decimal as D

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.plan import ShopKnown
from ditto_run.core.sheets import Entries
from ditto_run.core.shop.inserts import read_insert
from ditto_run.core.shop.shop_tools import Lasting, by_number, read_lasting, read_shop_tool


@pytest.mark.parametrize(
    ("code", "said"),
    [  # ISO 1832, from memory
        ("CNMG 120408", ("rhombic, 80°", 0, 12, D("4.76"), D("0.8"))),
        ("dcmt11t304", ("rhombic, 55°", 7, 11, D("3.97"), D("0.4"))),
        ("TCGT 110202 FN", ("triangular", 7, 11, D("2.38"), D("0.2"))),
        ("VBMT 160404-PM", ("rhombic, 35°", 5, 16, D("4.76"), D("0.4"))),
        ("RCMT 0803M0", ("round", 7, 8, D("3.18"), None)),
        ("SPGN 120300", ("square", 11, 12, D("3.18"), D(0))),
        ("XOOX 120408", None),  # no such shape
        ("CZMG 120408", None),
        ("CNQG 120408", None),
        ("CNMZ 120408", None),
        ("CNMG 128808", None),
        ("CNMG 1204", None),
    ],
)
def test_an_insert_is_what_its_code_says(code: str, said: tuple[object, ...] | None) -> None:
    if said is None:
        with pytest.raises(BadEntry) as refused:
            read_insert(code)
        assert refused.value.field == "insert"
        return
    found = read_insert(code)
    assert (found.shape, found.clearance_deg, found.edge_mm, found.thick_mm, found.radius_mm) == said


@pytest.mark.parametrize(
    ("text", "lasting", "of_41_s"),
    [
        ("", None, None),
        ("200", Lasting(200), 200),
        ("1,200 pieces", Lasting(1200), 1200),
        ("45 min", Lasting(cutting_s=2700), 65),  # 2700 / 41 = 65.85
        ("0:41", Lasting(cutting_s=41), 1),  # on the limit it lasts that piece
        ("40 s", Lasting(cutting_s=40), 0),
    ],
)
def test_a_life_is_in_pieces_or_in_time(text: str, lasting: Lasting | None, of_41_s: int | None) -> None:
    found = read_lasting(text, "life")
    assert found == lasting
    assert (found.of(41) if found is not None else None) == of_41_s
    assert Lasting(cutting_s=60).of(0) is None  # a step without a time says nothing


@pytest.mark.parametrize("text", ["2.5 pieces", "0", "-3", "for ever", "2000000"])
def test_what_is_no_life_is_refused_at_its_column(text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_lasting(text, "life")
    assert refused.value.field == "life"


@pytest.mark.parametrize(
    ("texts", "field"),
    [
        ({"name": ""}, "name"),
        ({"name": "T3", "kind": "hammer"}, "kind"),
        ({"name": "T3", "across": "0"}, "across"),
        ({"name": "T3", "flutes": "some"}, "flutes"),
        ({"name": "T3", "sisters": "-1"}, "sisters"),
        ({"name": "T3", "insert": "CNMG"}, "insert"),
    ],
)
def test_a_row_that_cannot_be_read_says_where(texts: dict[str, str], field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_shop_tool(Entries(texts, "mm", {}))
    assert refused.value.field == field


def test_a_tool_is_found_by_its_number_in_its_machine_before_one_that_is_in_none() -> None:
    rows = [{"name": "T03 spare"}, {"name": "t3 finish slot", "machine": "Mill 2"}, {"name": "scriber"}]
    tools = [read_shop_tool(Entries(row, "mm", {})) for row in rows]
    assert [tool.number for tool in tools] == [3, 3, None]
    shop = ShopKnown(tools=by_number(tools))
    assert shop.tool_of(3, "mill 2") is tools[1]
    assert shop.tool_of(3, "Old mill") is tools[0]
    assert shop.tool_of(4, "Mill 2") is None
    many = by_number(
        read_shop_tool(Entries({"name": f"T{n % 999 + 1} cutter {n}"}, "mm", {})) for n in range(5000)
    )
    assert sum(len(mine) for mine in many.values()) == 5000
