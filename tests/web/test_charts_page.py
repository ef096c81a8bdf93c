"""The usual charts of a run, and the study of a gauge, in the browser."""

from starlette.testclient import TestClient

from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from tests.conftest import planned
from tests.web.conftest import flat

HX = {"HX-Request": "true"}


def run(desk: Desk, sizes: tuple[str, ...]) -> int:
    job = desk.jobs.new(planned(30, stations="A"), "RK")
    of = start_run(desk, job, "RK")
    for n, size in enumerate(sizes, 1):
        for k, command in enumerate(
            (
                do.StartCycle(),
                do.EndCycle(confirm=str(n)),
                do.TakeReading(n, 1, size, confirm=size),
                do.TakeReading(n, 2, "31.5", confirm="31.5"),
                *([do.AcceptMaster(1)] if n == 1 else []),
            )
        ):
            desk.runs.record(of, command, "RK", f"{n}-{k}")
    return job


def test_each_kind_of_chart_is_drawn_and_a_rule_that_speaks_is_named(client: TestClient, desk: Desk) -> None:
    job = run(desk, ("20.000", "20.001", "20.002", "20.003", "20.004", "20.005", "20.006", "20.007"))
    at = f"/jobs/{job}/run/charts"
    page = flat(client.get(at).text)
    assert ", at piece 8.</h1>" in page
    assert "Piece 6: six in a row up or down" in page
    assert 'aria-label="8 of slot in order"' in page
    for kind in ("readings", "steps", "sums", "zones"):
        assert client.get(at, params={"kind": kind}).status_code == 200
    assert 'aria-label="16 of all sizes, as deviations in order"' in flat(
        client.get(at, params={"of": 0}).text
    )
    assert client.get(at, params={"kind": "bars"}).status_code == 422
    assert "charts</a>" in client.get(f"/jobs/{job}/run").text


def test_few_readings_are_said_to_be_few_and_none_to_be_none(client: TestClient, desk: Desk) -> None:
    job = run(desk, ("20.001", "20.002"))
    at = f"/jobs/{job}/run/charts"
    assert "2 readings of slot: too few to say." in flat(client.get(at).text)
    assert "No reading can be charted yet." in flat(client.get(at, params={"of": 77}).text)


def test_a_study_is_worked_out_taken_and_counted_with(client: TestClient, desk: Desk) -> None:
    from decimal import Decimal

    from ditto_run.core.shop import Gauge

    number = desk.shop.save_gauge(Gauge(0, "micrometer", Decimal("0.001"), "mm"))
    at = f"/shop/gauges/{number}/study"
    assert "No study says how well it repeats." in flat(client.get(at).text)
    wrong = flat(client.get(at, params={"readings": "20.001 20.002"}).text)
    assert "That is too little to say." in wrong
    assert "20.001 20.002</textarea>" in wrong
    readings = "20.001 20.003 20.002 20.004 20.002"
    assert "It repeats to 0.00114 mm." in flat(
        client.get(at, params={"readings": readings, "width": "0.06"}).text
    )
    assert "Type how far" in flat(client.get(at, params={"readings": readings, "width": "-1"}).text)
    client.post(at, data={"readings": readings}, headers=HX)
    kept = desk.shop.load().gauges[number]
    assert kept.repeats == Decimal("0.00114")
    client.post(
        "/shop/gauges",
        data={"gauge_id": number, "name": "micrometer 1", "resolution": "0.001", "unit": "mm"},
        headers=HX,
    )
    assert desk.shop.load().gauges[number].repeats == Decimal("0.00114")
    client.post(
        "/shop/gauges",
        data={"gauge_id": number, "name": "micrometer 1", "resolution": "0.0001", "unit": "in"},
        headers=HX,
    )
    assert desk.shop.load().gauges[number].repeats is None  # the study was in another unit
    assert client.get("/shop/gauges/99/study").status_code == 404


def test_what_a_study_says_is_what_the_judgement_counts_with(desk: Desk) -> None:
    from decimal import Decimal

    from ditto_run.core.run.judged import Keeper
    from ditto_run.core.shop import Gauge
    from tests.conftest import MILL, CoreHand

    hand = CoreHand(planned()).proven()
    plan = hand.plans[1]
    from dataclasses import replace

    hand.plans[1] = replace(plan, characteristics=tuple(replace(c, gauge_id=5) for c in plan.characteristics))
    state = hand.state
    setup = state.plan.setups[0].key
    for repeats, found in ((None, 0.0005), (Decimal("0.002"), 0.002)):
        history = Keeper(setup).history(
            state, MILL, {5: Gauge(5, "micrometer", Decimal("0.001"), "mm", repeats)}
        )
        assert history is not None
        assert history.job.dimensions[0].repeatability == found


def test_a_warm_reading_says_what_it_is_at_20_while_it_is_only_typed(client: TestClient, desk: Desk) -> None:
    from dataclasses import replace

    plan = planned(6, stations="A")
    job = desk.jobs.new(replace(plan, heading=replace(plan.heading, material="6061-T6")), "RK")
    of = start_run(desk, job, "RK")
    for n, command in enumerate((do.StartCycle(), do.EndCycle(confirm="1"))):
        desk.runs.record(of, command, "RK", f"s{n}")
    at = f"/jobs/{job}/run"
    asked = {"piece": 1, "characteristic": 1, "text": "20.010"}
    assert "Warm:" not in client.get(f"{at}/typed", params=asked).text
    form = client.get(f"{at}/form/size", params={"piece": 1, "dimension": 1}).text
    assert "The piece is at, °C" in form
    client.post(
        f"{at}/do", data={"kind": "say_warmth", "piece": "45", "gauge": "", "client_key": "w"}, headers=HX
    )
    assert "Warm: at 20 °C it is 19.999 mm, inside." in flat(client.get(f"{at}/typed", params=asked).text)
    refused = client.post(
        f"{at}/do", data={"kind": "say_warmth", "piece": "hot", "gauge": "", "client_key": "x"}, headers=HX
    )
    assert refused.status_code == 422


def test_pieces_go_out_and_are_counted_in_on_close_even_after_it(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(1, stations="A"), "RK")
    of = start_run(desk, job, "RK")
    for n, command in enumerate(
        (
            do.StartCycle(),
            do.EndCycle(confirm="1"),
            do.TakeReading(1, 1, "20.001"),
            do.TakeReading(1, 2, "31.5"),
            do.AcceptMaster(1),
            do.CloseRun(),
        )
    ):
        desk.runs.record(of, command, "RK", f"c{n}")
    at = f"/jobs/{job}/close"
    assert "No piece went out." in flat(client.get(at).text)
    out = {
        "kind": "send_out",
        "what": "clear anodise",
        "to": "the plater",
        "pieces": "1",
        "promised": "2026-12-04",
    }
    refused = client.post(f"{at}/trip", data=out | {"pieces": "2", "client_key": "a"}, headers=HX)
    assert refused.status_code == 422
    assert "1 good one is here" in refused.text
    for _ in range(2):
        client.post(f"{at}/trip", data=out | {"client_key": "b"}, headers=HX)
    page = flat(client.get(at).text)
    assert "1 piece to the plater for clear anodise</b>" in page
    assert "1 still out, promised for 2026-12-04" in page
    with desk.runs.folded(of) as state:
        (trip,) = state.trips
    packing = flat(client.get(f"{at}/trip/{trip.number}").text)
    assert "<h1>1 piece to the plater.</h1>" in packing
    assert "20.001 mm to 20.001 mm" in packing
    assert client.get(f"{at}/trip/99").status_code == 404
    client.post(
        f"{at}/trip",
        data={"kind": "come_back", "trip": trip.number, "pieces": "1", "client_key": "d"},
        headers=HX,
    )
    assert "all back" in flat(client.get(at).text)
    other = client.post(f"{at}/trip", data={"kind": "close_run", "client_key": "e"}, headers=HX)
    assert other.status_code in {404, 422}
