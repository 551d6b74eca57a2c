"""The sleeve step in the real window: measured, weighed, put in, read; with the demo job and by hand from nothing."""

import pytest
from PyQt6.QtCore import Qt

from redline_bore.job.sleeve.run import stage_of

K = Qt.Key


@pytest.fixture
def railcar(bench_on):
    """Job 2044, its sleeves in."""
    return bench_on("2044")


@pytest.fixture
def sleeving(bench):
    """2041 with cylinder 4 sleeved by the call."""
    bench.go("call")
    bench.session.set_page("ladder")
    bench.session.select(4)
    bench.key(K.Key_S)
    bench.take_call()
    bench.session.select(4)
    bench.type("105.430 20 C")
    bench.go("sleeve")
    return bench


def measured(bench):
    """Parent gauged, sleeve measured: as a machinist would type it."""
    bench.type("outside 122 to 128")
    for depth in (20, 100, 190):
        bench.type(f"parent 110.000 110.002 109.999 110.001 at {depth}")
    bench.type("sleeve 110.060 x 104.400 flange 5 20 C")


def test_the_step_stands_on_the_strip_only_where_a_sleeve_is_called(bench, sleeving):
    assert "sleeve" in sleeving.session.steps and "Sleeve" in sleeving.window.strip.said()
    sleeving.session.open_job("2036")
    assert "sleeve" not in sleeving.session.steps
    sleeving.session.go("sleeve")
    assert sleeving.session.bench.step != "sleeve"


def test_striking_the_call_leads_back_to_it(sleeving):
    for _ in range(3):
        sleeving.key(K.Key_Backspace)
    assert sleeving.session.bench.step == "call" and sleeving.window.step.name == "call"


def test_from_the_call_to_a_sleeve_that_sits(sleeving):
    bench = sleeving
    assert "Gauge the parent of 4" in bench.call
    measured(bench)
    view = bench.window.step.page
    assert bench.call.startswith("Go on, true it up in the hone.") and "touch up" not in bench.said
    assert view.grip.said() == "grips 0.059 to 0.061" and "sure" in view.ways.said()
    bench.key(K.Key_Return)
    assert bench.session.job.sleeving.way_of(4).way == "touch up"
    bench.type("deck 0 0.03 / 0.05 0.02")
    bench.type("faced 0.063")
    bench.type("protrusion 0.03 0.07")
    bench.type("counterbore 4.950")
    bench.session.set_page("heat")
    bench.key(K.Key_Down)
    assert bench.session.job.sleeving.cold_c == -20.0 and "sleeve at −20 °C" in bench.call
    bench.session.set_page("run")
    stamps = []
    for _ in range(20):
        before = len(bench.session.records)
        bench.key(K.Key_K)
        if len(bench.session.records) == before:
            break
        stamps.append(bench.session.records[-1].entry.check)
    assert stamps == ["clean", "proving", "hot", "cold", "seated", "held"]
    assert stage_of(bench.session.job, 4).key == "read" and "Every check" in bench.said
    bench.type("after 104.358 104.357 104.357")
    assert bench.call.startswith("Sleeve 4 sits. The bar finishes it to")
    assert "4: 0.060 sits" in bench.window.plan.said()
    bench.key(K.Key_Return)
    assert bench.session.job.signing.stamp("sleeve").initials == "RM" and bench.session.bench.step == "bore"


def test_a_way_that_does_not_go_is_not_taken(sleeving):
    measured(sleeving)
    sleeving.type("sleeve 110.010 x 104.400 20 C")
    ways = sleeving.window.step.page.ways.ways()
    at = next(i for i, w in enumerate(ways) if w.way == "touch up")
    for _ in range(at):
        sleeving.key(K.Key_Down)
    before = len(sleeving.session.records)
    sleeving.key(K.Key_Return)
    assert "That does not go" in sleeving.said and len(sleeving.session.records) == before


def test_bad_input_is_refused_at_the_field_and_kept(sleeving):
    for text, why in (("parent 60", "too far from the bore"), ("hammer 3", "begins with"), ("cold 20", "How cold")):
        sleeving.type(text)
        assert why in sleeving.said and sleeving.field.text() == text
        sleeving.key(K.Key_Escape)
    sleeving.key(K.Key_Return)
    assert "Nothing is typed" in sleeving.said


def test_a_cylinder_that_keeps_its_wall_says_so(sleeving):
    sleeving.key(K.Key_Left)
    assert sleeving.session.bench.cylinder == 3 and sleeving.call == "Cylinder 3 keeps its own wall."
    sleeving.key(K.Key_K)
    assert "gets no sleeve" in sleeving.said
    for page in ("heat", "deck", "run", "fit"):
        sleeving.session.set_page(page)
        sleeving.settle()
        assert sleeving.colours(sleeving.window.step.page)


def test_the_railcar_shows_every_page(railcar):
    railcar.go("sleeve")
    railcar.session.select(2)
    assert railcar.call == "Sleeve 2 sits and is bored; the hone is next."
    assert "sleeve 1 in 2 grips" in railcar.window.step.page.match.said()
    railcar.key(K.Key_V)
    assert railcar.session.bench.page == "heat" and "dry ice: block" in railcar.window.step.page.view.said()
    railcar.key(K.Key_V)
    page = railcar.window.step.page
    assert page.heights.said().startswith("out by 0.0009") and page.seat.said() == "counterbore 0.1560"
    railcar.key(K.Key_V)
    assert railcar.window.step.page.view.said() == "all done"
    railcar.key(K.Key_W)
    assert railcar.window.over.panel.isVisible() and "Lamé" in railcar.window.over.panel.body.text()
    railcar.key(K.Key_Escape)
    railcar.key(K.Key_Return)
    assert railcar.session.bench.step == "hone"


def test_the_railcar_opens_at_the_hone_warm_and_right(railcar):
    assert railcar.session.bench.step == "hone"
    railcar.session.select(1)
    assert railcar.call == "The coarse step is done. N goes to plateau."
    railcar.session.select(2)
    assert "then stop and gauge" in railcar.call
    labels = [f.label for f in railcar.window.step.advice().figures]
    assert any(label.startswith("block at 93.2 °F") for label in labels)


def test_night_and_scale_reach_the_sleeve_pages(railcar):
    railcar.go("sleeve")
    day = railcar.colours(railcar.window.step.page.grip)
    railcar.key(K.Key_D, Qt.KeyboardModifier.ControlModifier)
    railcar.settle()
    assert railcar.colours(railcar.window.step.page.grip) != day
    for page in ("fit", "heat", "deck", "run"):
        railcar.session.set_page(page)
        railcar.settle()
        assert len(railcar.colours(railcar.window.step.page)) > 5
