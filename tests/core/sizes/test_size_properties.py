"""Properties of sizes: what is printed reads back the same, and on the limit is inside, always."""

from decimal import Decimal as D

from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry, NeedsAnswer
from ditto_run.core.run.verdict import judge, slip
from ditto_run.core.sizes import Size, read_size, size_text

UNITS = st.sampled_from(["mm", "in"])
NOMINALS = st.decimals(min_value="0.0001", max_value="3000", places=4)
REACHES = st.decimals(min_value="0", max_value="9", places=4)


@st.composite
def sizes(draw: st.DrawFn) -> Size:
    nominal, below, above = draw(NOMINALS), draw(REACHES), draw(REACHES)
    text = f"{nominal} +{above}/-{below} {draw(UNITS)}"
    return read_size(text, "mm")


@given(sizes(), UNITS)
def test_what_is_printed_reads_back_the_same(size: Size, job_unit) -> None:
    again = read_size(size_text(size), job_unit)

    assert (again.nominal, again.lower, again.upper, again.unit) == (
        size.nominal,
        size.lower,
        size.upper,
        size.unit,
    )


@given(st.integers(1, 128), st.sampled_from([2, 4, 8, 16, 32, 64]), st.integers(0, 20))
def test_fractions_read_back_the_same(above: int, below: int, whole: int) -> None:
    size = read_size(f"{whole} {above}/{below}" if whole else f"{above}/{below}", "mm")

    assert size.nominal == D(whole) + D(above) / D(below)
    assert read_size(size_text(size), "mm").nominal == size.nominal


@given(sizes())
def test_on_the_limit_is_inside_and_a_hair_past_it_is_not(size: Size) -> None:
    hair = D("1e-9")
    assert judge(size.lower, size.unit, size).side == "inside"
    assert judge(size.upper, size.unit, size).side == "inside"
    assert judge(size.upper + hair, size.unit, size).side == "over"
    assert judge(size.lower - hair, size.unit, size).side == "under"


@given(
    st.decimals(min_value="0.001", max_value="99", places=4),
    st.decimals(min_value="0", max_value="1", places=4),
)
def test_on_the_limit_is_inside_across_units(nominal: D, reach: D) -> None:
    """An inch limit met by its exact millimetre reading: 25.4 is exact, so no rounding may tip it over."""
    size = read_size(f"{nominal} ±{reach} in", "mm")

    assert judge(size.upper * D("25.4"), "mm", size).side == "inside"
    assert judge(size.lower * D("25.4"), "mm", size).side == "inside"
    assert judge(size.upper * D("25.4") + D("1e-9"), "mm", size).side == "over"


@given(
    sizes(),
    st.decimals(min_value="-5", max_value="5", places=4),
    st.decimals(min_value="-5", max_value="5", places=4),
)
def test_slip_grows_with_the_size(size: Size, one: D, other: D) -> None:
    low, high = sorted((one, other))
    middle = size.middle

    assert slip(middle + low, middle, size) <= slip(middle + high, middle, size)


@given(st.text(max_size=40), UNITS)
def test_any_text_is_read_or_refused_in_words(text: str, unit) -> None:
    try:
        size = read_size(text, unit)
    except (BadEntry, NeedsAnswer) as refusal:
        assert refusal.problem
        assert refusal.remedy
    else:
        assert size.lower is None or size.upper is None or size.lower <= size.upper
