"""The gauge step in the real window: typed, walked, struck, and read from the simulated gauge."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QApplication

from redline_bore.core.gauging import Place
from redline_bore.demo.walls import wall_2041
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.sign_off.sheet import OpenPoint, sheet_of
from redline_bore.store.sheet_html import sheet_html
from redline_bore.ui.paint.reading_ring import spot_at

ALT, CTRL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def gauging(bench_on):
    bench = bench_on("2047")
    bench.go("gauge")
    return bench


def test_a_typed_reading_is_booked_and_the_next_place_lit(gauging):
    assert gauging.session.bench.place == Place(0, 0)
    gauging.type("78.012")
    record = gauging.session.records[-1]
    assert isinstance(record.entry, ReadingBooked) and record.typed == "78.012"
    assert gauging.session.bench.place == Place(0, 1) and gauging.field.text() == ""
    assert gauging.window.line.kept.text().endswith(f"entry {record.seq}")
    assert "clock 30°" in gauging.window.line.where.text() and gauging.call == "Read level A at 30°, then B."


@pytest.mark.parametrize(
    "text, reason", [("3.071", "write 3.071in"), ("abc", "not a length"), ("780.12", "too far"), ("78,012", "two ways")]
)
def test_a_refusal_says_why_and_keeps_what_was_typed(gauging, text, reason):
    before = len(gauging.session.records)
    gauging.field.setText(text)
    gauging.key(Qt.Key.Key_Return)
    assert reason in gauging.said and gauging.field.text() == text
    assert len(gauging.session.records) == before
    gauging.bot.keyClicks(gauging.field, "0")
    assert reason not in gauging.said  # the remark goes when typing goes on


def test_backspace_strikes_out_and_ctrl_y_brings_back(gauging):
    gauging.type("78.012")
    gauging.key(Qt.Key.Key_Backspace)
    assert not gauging.session.state.gauging.readings and "struck out" in gauging.said
    assert isinstance(gauging.session.records[-1].entry, EntryStruck)
    gauging.key(Qt.Key.Key_Y, CTRL)
    assert len(gauging.session.state.gauging.readings) == 1
    gauging.key(Qt.Key.Key_Z, CTRL)
    assert not gauging.session.state.gauging.readings


def test_backspace_in_a_figure_only_takes_a_digit(gauging):
    before = len(gauging.session.records)
    gauging.type("78.01", enter=False)
    gauging.key(Qt.Key.Key_Backspace)
    assert gauging.field.text() == "78.0" and len(gauging.session.records) == before


def test_arrows_walk_the_ring_and_home_goes_to_the_next(gauging):
    for key, place in (
        (Qt.Key.Key_Right, (0, 1)),
        (Qt.Key.Key_Down, (1, 1)),
        (Qt.Key.Key_Left, (1, 0)),
        (Qt.Key.Key_Left, (1, 5)),
        (Qt.Key.Key_Up, (0, 5)),
        (Qt.Key.Key_Home, (0, 0)),
    ):
        gauging.key(key)
        assert gauging.session.bench.place == Place(*place)


def test_digits_with_alt_pick_cylinders(bench):
    bench.go("gauge")
    bench.key(Qt.Key.Key_4, ALT)
    assert bench.session.bench.cylinder == 4 and "cylinder 4" in bench.window.card.scope.text().lower()
    bench.key(Qt.Key.Key_9, ALT)  # there is no ninth
    assert bench.session.bench.cylinder == 4
    bench.type("105.2", enter=False)
    assert bench.field.text() == "105.2"  # plain digits are figures here


def test_p_and_u_are_commands_only_while_nothing_is_typed(gauging):
    gauging.key(Qt.Key.Key_P)
    assert gauging.session.state.clamped.plate_on and gauging.window.strip.plate.text() == "plate on"
    gauging.key(Qt.Key.Key_U)
    assert gauging.window.strip.units.text() == "in"
    gauging.type("78 um", enter=False)
    assert gauging.field.text() == "78 um" and gauging.window.strip.units.text() == "in"


def test_the_blocks_temperature_is_typed_anywhere(gauging):
    gauging.type("31.5 C")
    gauging.type("78.012")
    reading = gauging.session.state.gauging.readings[0]
    assert gauging.session.state.clamped.block_c == 31.5 and reading.size_mm == pytest.approx(
        78.012 / (1 + 11e-6 * 11.5)
    )


def test_a_click_on_either_end_of_a_chord_goes_there(gauging):
    ring = gauging.window.steps["gauge"].page.ring
    for place, leg in ((Place(2, 1), 0.0), (Place(1, 4), 180.0)):
        x, y = spot_at(ring._area(), gauging.session.state.gauging.plan, place, 1.0, leg)
        gauging.bot.mouseClick(ring, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
        assert gauging.session.bench.place == place


def test_a_reading_stands_at_both_ends_of_its_chord(bench):
    bench.go("gauge")
    bench.session.select(4)
    bench.settle()
    ring = bench.window.steps["gauge"].page.ring
    image = ring.grab().toImage()
    for leg in (0.0, 180.0):
        x, y = spot_at(ring._area(), bench.session.state.gauging.plan, Place(1, 3), 1.0, leg)
        colour = image.pixelColor(round(x), round(y) + 9)
        assert colour.red() > colour.blue() + 45, f"not open at {leg}"


def test_the_wall_map_is_drawn_and_read_under_the_pointer(bench):
    bench.go("gauge")
    bench.session.select(4)
    bench.settle()
    view = bench.window.steps["gauge"].page.map
    assert view.said() == "Wall of cylinder 4, 5 levels"
    picture = view.mapped
    true = wall_2041().cylinders[3]
    assert picture.at(24.0, 90.0) == pytest.approx(true.diameter(24, 90, True) - 105.0, abs=0.02)
    assert picture.at(3.0, 90.0) is None  # above the shallowest level: not read
    wall = view.wall()
    bench.bot.mouseMove(view, QPoint(round(wall.left() + wall.width() / 4), round(wall.top() + wall.height() * 0.3)))
    QApplication.processEvents()
    depth, clock = bench.session.bench.gauge.probe
    assert clock == pytest.approx(90.0, abs=1.0) and depth == pytest.approx(0.3 * 212.0, abs=1.0)
    assert "90°" in view.said()


def test_one_level_is_no_map_and_says_so(gauging):
    gauging.type("78.012")
    gauging.settle()
    assert "needs two levels" in gauging.window.steps["gauge"].page.map.said()


def test_an_older_wall_never_comes_back_after_a_newer_one(bench):
    bench.go("gauge")
    for cylinder in (1, 2, 3, 4, 5, 2):
        bench.session.select(cylinder)
    bench.settle()
    assert bench.window.steps["gauge"].page.map.mapped.cylinder == 2


def test_what_was_typed_waits_while_another_step_is_looked_at(gauging):
    gauging.type("78.0", enter=False)
    gauging.key(Qt.Key.Key_PageDown)
    assert gauging.session.bench.step == "call" and gauging.field.text() == ""
    gauging.key(Qt.Key.Key_PageUp)
    assert gauging.field.text() == "78.0"


def test_words_book_what_a_machinist_finds(gauging):
    gauging.type("score catches at 20 to 60 clock 90")
    gauging.type("gap 0.5 at 40")
    state = gauging.session.state
    assert state.gauging.defects[-1].deep_high_mm == 0.05 and len(state.gauging.ring_gaps) == 3
    gauging.type("rust deep at nowhere")
    assert "Look here" in gauging.said and gauging.field.text() == "rust deep at nowhere"


# -- the simulated gauge ---------------------------------------------------------------------------------------------


@pytest.fixture
def with_gauge(gauging):
    gauging.key(Qt.Key.Key_G, CTRL)
    gauging.bot.waitUntil(lambda: "gauge answers" in gauging.said)
    return gauging


def test_space_reads_and_enter_books(with_gauge):
    with_gauge.key(Qt.Key.Key_Space)
    with_gauge.bot.waitUntil(lambda: with_gauge.field.text() != "")
    shown = with_gauge.field.text()
    assert shown.startswith("+0.0")
    with_gauge.key(Qt.Key.Key_Return)
    record = with_gauge.session.records[-1]
    assert (
        record.instrument == "simulated bore gauge"
        and record.typed.startswith("reading +0.0")
        and record.block_c == 20.4
    )
    assert 78.0 < record.entry.diameter_mm < 78.1 and with_gauge.field.text() == ""


def test_an_edited_gauge_figure_is_booked_as_typed(with_gauge):
    with_gauge.key(Qt.Key.Key_Space)
    with_gauge.bot.waitUntil(lambda: with_gauge.field.text() != "")
    with_gauge.field.setText("78.020")
    with_gauge.key(Qt.Key.Key_Return)
    assert with_gauge.session.records[-1].typed == "78.020"
    assert with_gauge.session.records[-1].instrument == "" and with_gauge.session.job.simulated == 0, "by hand is real"


def test_unplugged_in_the_middle_of_a_reading_harms_nothing(with_gauge):
    before = len(with_gauge.session.records)
    with_gauge.key(Qt.Key.Key_Space)
    with_gauge.window.instruments.gauge._stand_in.kill()
    with_gauge.bot.waitUntil(lambda: "unplugged" in with_gauge.said)
    assert len(with_gauge.session.records) == before and not with_gauge.window.instruments.gauge.connected
    with_gauge.field.clear()
    with_gauge.type("78.015")
    assert len(with_gauge.session.records) == before + 1
    with_gauge.key(Qt.Key.Key_Space)
    assert "No gauge is connected" in with_gauge.said


def test_a_port_that_is_not_there_is_said(gauging):
    gauging.type("port /dev/nothing")
    assert "No instrument answers at /dev/nothing" in gauging.said and gauging.field.text() == "port /dev/nothing"


def test_what_a_stand_in_sent_is_practice_on_the_screen_and_on_the_sheet(with_gauge):
    assert with_gauge.session.job.simulated == 0
    with_gauge.key(Qt.Key.Key_Space)
    with_gauge.bot.waitUntil(lambda: with_gauge.field.text() != "")
    with_gauge.key(Qt.Key.Key_Return)
    state = with_gauge.session.job
    assert state.simulated == 1
    assert any(p.what is OpenPoint.SIMULATED for p in sheet_of(state).open_points)
    for audience in ("customer", "shop"):
        html = sheet_html(sheet_of(state), with_gauge.session.show, {}, audience)
        assert "Practice: 1 entry by simulated instruments. Not real work." in html
    with_gauge.key(Qt.Key.Key_Backspace)
    assert with_gauge.session.job.simulated == 0, "what is struck does not count"


def test_a_plan_with_fewer_places_moves_the_gauge_before_anything_is_painted(bench):
    """L (race), Right, L (quick): no place of a plan that is gone."""
    bench.go("gauge")
    for _ in range(6):
        for _ in range(9):
            bench.key(Qt.Key.Key_Right)
        bench.key(Qt.Key.Key_L)
        plan, place = bench.session.job.gauging.plan, bench.session.bench.place
        assert place.level < len(plan.depths_mm) and place.clock < len(plan.clocks_deg)
        bench.window.grab()
