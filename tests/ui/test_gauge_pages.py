"""The pages of the gauge step in the real window: by keys, by pointer, by the gauge's own button."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication, QFileDialog

from redline_bore.cli import main
from redline_bore.ui.commands import files
from redline_bore.ui.steps.gauge import PAGES
from tests.ui.gauging import page

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def test_v_goes_through_every_page_and_each_says_something(gauging):
    seen = []
    for _ in PAGES:
        gauging.settle()
        seen.append(gauging.session.bench.page)
        view = gauging.window.step.page
        assert gauging.call and view.pictures() and view.isVisible()
        assert all(p.accessibleName() for p in view.pictures())
        gauging.key(Qt.Key.Key_V)
    assert tuple(seen) == PAGES and gauging.session.bench.page == "readings"
    gauging.key(Qt.Key.Key_V, SHIFT)
    assert gauging.session.bench.page == "study"


@pytest.mark.parametrize("number", ["2036", "2047"])
@pytest.mark.parametrize("night", [False, True])
def test_every_page_draws_a_full_and_an_empty_job(bench_on, number, night):
    bench = bench_on(number)
    bench.window.theme.set_night(night)
    bench.go("gauge")
    for name in PAGES:
        view = page(bench, name)
        assert len(bench.colours(view)) > 3


def test_a_click_on_a_tab_opens_its_page(gauging):
    tabs = gauging.window.step.tabs
    gauging.bot.mouseClick(tabs.buttons["plate"], Qt.MouseButton.LeftButton)
    assert gauging.session.bench.page == "plate" and tabs.buttons["plate"].accessibleDescription() == "shown"


# -- reading off -------------------------------------------------------------------------------------------------------


def test_shift_and_arrows_read_the_map(gauging):
    gauging.session.select(4)
    gauging.settle()
    gauging.key(Qt.Key.Key_Down, SHIFT)
    depth, clock = gauging.session.bench.gauge.probe
    gauging.key(Qt.Key.Key_Right, SHIFT)
    assert gauging.session.bench.gauge.probe == (depth, clock + 5.0)
    assert "°: +0." in gauging.window.step.page.map.said()


def test_the_probe_stays_in_the_cylinder(gauging):
    gauging.session.set_probe(-5.0, 370.0)
    assert gauging.session.bench.gauge.probe == (0.0, 10.0)
    assert "not read" in gauging.window.step.page.map.said()


def test_labels_of_a_map_give_way_to_what_is_read_off(gauging, monkeypatch):
    gauging.session.select(4)
    gauging.settle()
    view, written = gauging.window.step.page.map, []
    room = view._with_room
    monkeypatch.setattr(view, "_with_room", lambda *given: written.append((given[1], *room(*given))) or written[-1][1:])
    view.grab()
    wall, length = view.wall(), gauging.session.job.block.length_mm
    labels = [label for label in view._drawn.labels if wall.contains(label.center())]
    assert len(labels) > 4
    for label in labels:
        down = (label.center().y() + view.theme.px(16.0) - wall.top()) / wall.height() * length
        gauging.session.set_probe(down, (label.center().x() - wall.left()) / wall.width() * 360.0 - 6.0)
        view.grab()
        _engraved, box, drawn = written[-1]
        assert not any(other.intersects(box) for other in drawn.labels)
    around = lambda clock: (gauging.session.set_probe(30.0, clock), view.grab(), written[-1])[-1]  # noqa: E731
    assert any(drawn is not engraved for engraved, _box, drawn in map(around, range(0, 360, 4)))  # some have to go


def test_arrows_walk_the_slice_down_the_depths_that_were_read(gauging):
    gauging.session.select(2)
    view = page(gauging, "slice")
    gauging.key(Qt.Key.Key_Down)
    gauging.key(Qt.Key.Key_Down)
    assert view.cut().depth_mm == 60.0 and view.cut().swept is not None
    assert gauging.call.startswith("Crooked")
    gauging.key(Qt.Key.Key_Right)
    assert "5 degrees" in view.polar.said() and "2 lobes" in view.lobes.said()


def test_t_shows_the_wall_as_swept(gauging):
    gauging.session.select(2)
    gauging.key(Qt.Key.Key_T)
    gauging.settle()
    picture = gauging.window.step.page.map.mapped
    assert picture.kind == "swept" and picture.at(26.0, 84.0) > 0.03  # on radius, one-sided
    assert picture.at(26.0, 264.0) < picture.at(26.0, 84.0) / 2
    gauging.session.select(1)
    gauging.settle()
    assert "No sweep" in gauging.window.step.page.map.said()


def test_all_cylinders_are_read_at_one_place_and_picked_by_click(gauging):
    view = page(gauging, "all")
    box = view.maps.box_of(3)
    gauging.bot.mouseClick(view.maps, Qt.MouseButton.LeftButton, pos=box.center().toPoint())
    assert gauging.session.bench.cylinder == 3
    gauging.bot.mouseMove(view.maps, box.center().toPoint())
    QApplication.processEvents()
    assert gauging.session.bench.gauge.probe is not None
    gauging.key(Qt.Key.Key_Right)
    assert gauging.session.bench.cylinder == 4 and "crooked" in view.maps.said()


# -- plate -------------------------------------------------------------------------------------------------------------


def test_the_plate_is_tightened_pull_by_pull_and_goes_on(bench_on):
    bench = bench_on("2036")
    bench.go("sign_off")
    bench.type("reopen the owner comes back")
    bench.go("gauge")
    page(bench, "plate")
    assert not bench.session.state.clamped.plate_on
    bench.key(Qt.Key.Key_Return)
    assert bench.session.bench.gauge.pulled == 0 and "1 in the order to 31 lbf ft, stage 1" in bench.call
    for _ in range(2):
        bench.key(Qt.Key.Key_Return)
    bench.key(Qt.Key.Key_Left)
    assert bench.session.bench.gauge.pulled == 1
    for _ in range(17):
        bench.key(Qt.Key.Key_Return)
    state = bench.session.state
    assert (
        bench.session.bench.gauge.pulled is None and state.clamped.plate_on and len(state.clamped.tightened.order) == 6
    )
    assert state.clamped.tightened.torques_nm == pytest.approx((42.03, 63.05, 84.06), abs=0.01)


def test_esc_breaks_the_tightening_off_and_books_nothing(gauging):
    page(gauging, "plate")
    before = len(gauging.session.records)
    gauging.key(Qt.Key.Key_Return)
    gauging.key(Qt.Key.Key_Return)
    gauging.key(Qt.Key.Key_Escape)
    assert gauging.session.bench.gauge.pulled is None and len(gauging.session.records) == before


@pytest.mark.parametrize("where", ["plate", "sign_off"])
def test_c_wants_the_plate_by_the_other_school(gauging, where):
    if where == "plate":
        page(gauging, "plate")
    else:
        gauging.go("sign_off")
    assert gauging.session.job.booking.practice("plate") == "always"
    gauging.key(Qt.Key.Key_C)
    assert (
        gauging.session.job.booking.practice("plate") == "weak decks" and "only where it would change" in gauging.said
    )
    if where == "plate":
        assert any("only where it would change" in line for line in gauging.window.step.advice().changes)
    gauging.key(Qt.Key.Key_C)
    assert gauging.session.job.booking.practice("plate") == "always"


def test_what_holds_the_plate_is_typed_and_compared_at_once(gauging):
    view = page(gauging, "plate")
    assert gauging.call == "The plate is not the head: gasket."
    gauging.type("head gasket steel shim")
    assert "differs" not in view.clamp.said() and "not the head" not in gauging.call
    gauging.type("plate torque much")
    assert "not a torque" in gauging.said and gauging.field.text() == "plate torque much"


# -- defects -----------------------------------------------------------------------------------------------------------


def test_a_defect_is_marked_by_keys_at_the_probe(gauging):
    gauging.session.set_probe(50.0, 120.0)
    gauging.key(Qt.Key.Key_D)
    assert gauging.field.text().startswith("score catches at 45.0 to 55.0 clock 120 wide 20")
    gauging.key(Qt.Key.Key_Return)
    (defect,) = gauging.session.state.gauging.defects_of(1)
    assert (defect.clock_deg, defect.feel) == (120.0, "catches")
    assert gauging.session.bench.page == "defects" and "score" in gauging.window.card.rows.accessibleDescription()


def test_a_defect_is_marked_out_by_dragging(gauging):
    view = page(gauging, "defects").map
    wall = view.wall()

    def at(share_x, share_y):
        return QPoint(round(wall.left() + wall.width() * share_x), round(wall.top() + wall.height() * share_y))

    gauging.bot.mousePress(view, Qt.MouseButton.LeftButton, pos=at(0.20, 0.3))
    gauging.bot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at(0.30, 0.5))
    assert "clock 90 wide 36" in gauging.field.text()
    gauging.field.setText(gauging.field.text().replace("score catches", "rust 0.12"))
    gauging.key(Qt.Key.Key_Return)
    (defect,) = gauging.session.state.gauging.defects_of(1)
    assert defect.measured and defect.top_mm == pytest.approx(0.3 * 212, abs=1.0)


def test_a_photo_goes_to_the_defect_that_is_lit(gauging, tmp_path):
    image = QImage(60, 40, QImage.Format.Format_RGB32)
    image.fill(0x884422)
    image.save(str(tmp_path / "rust.png"))
    gauging.session.select(4)
    gauging.type(f"photo {tmp_path / 'rust.png'}")
    state = gauging.session.state
    (photo,) = state.gauging.photos_of(state.gauging.defects_of(4)[0].seq)
    assert photo.name == "rust.png" and "kept with the rust ring" in gauging.said
    view = page(gauging, "defects")
    assert "#884422" in gauging.colours(view.list)
    gauging.type(f"photo {tmp_path / 'none.png'}")
    assert "cannot be read" in gauging.said
    gauging.key(Qt.Key.Key_Escape)
    gauging.session.select(1)
    gauging.type(f"photo {tmp_path / 'rust.png'}")
    assert "mark it on the wall first" in gauging.said


def test_arrows_and_clicks_pick_a_defect(gauging):
    gauging.session.select(4)
    view = page(gauging, "defects")
    gauging.type("pit can feel at 100 to 105 clock 10")
    assert gauging.session.bench.gauge.defect == 1
    gauging.key(Qt.Key.Key_Up)
    assert gauging.session.bench.gauge.defect == 0
    gauging.bot.mouseClick(view.list, Qt.MouseButton.LeftButton, pos=QPoint(100, 30 + 74 + 20))
    assert gauging.session.bench.gauge.defect == 1


# -- second opinion ----------------------------------------------------------------------------------------------------


def test_the_owner_of_marigold_is_answered_on_half_a_page(bench_on, tmp_path, monkeypatch):
    bench = bench_on("2036")
    bench.go("gauge")
    view = page(bench, "second")
    assert bench.call.startswith("Both are right") and "plate +0.0004" in view.terms.said()
    bench.key(Qt.Key.Key_Down)
    bench.key(Qt.Key.Key_Down)
    assert bench.session.bench.gauge.row == 2 and bench.session.bench.cylinder == 2
    target = tmp_path / "half.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(target), ""))
    bench.key(Qt.Key.Key_H, CTRL)
    assert target.read_bytes().startswith(b"%PDF")
    bench.do(files.write_half_page, tmp_path / "half.html")
    assert "Both are right" in (tmp_path / "half.html").read_text()
    bench.do(files.write_half_page, tmp_path / "half.doc")
    assert "end it in .pdf or .html" in bench.said


def test_another_shops_readings_are_typed_and_taken_from_a_file(gauging, tmp_path, monkeypatch):
    view = page(gauging, "second")
    gauging.type("other Weir works plate off block 14 C")
    gauging.type("other 4 105.19 at 24 clock 90")
    assert len(view.rows()) == 1 and "cylinder 4" in view.list.said()
    theirs = tmp_path / "theirs.csv"
    theirs.write_text("cylinder,depth_mm,clock_deg,diameter_mm\n1,24,90,105.16\n9,24,0,105\n")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(theirs), ""))
    gauging.key(Qt.Key.Key_O, CTRL)
    assert "line 3, cylinder" in gauging.window.over.panel.body.text() and len(view.rows()) == 1
    gauging.key(Qt.Key.Key_Escape)
    theirs.write_text("cylinder,depth_mm,clock_deg,diameter_mm\n1,24,90,105.16\n")
    gauging.key(Qt.Key.Key_O, CTRL)
    assert "1 reading taken in" in gauging.said and len(view.rows()) == 2


def test_the_half_page_from_the_command_line(demo_path, tmp_path, capsys, qapp):
    assert main(["opinion", "--logbook", str(demo_path), "--job", "2036", "--to", str(tmp_path / "o.html")]) == 0
    assert "Both are right" in (tmp_path / "o.html").read_text()
    assert main(["opinion", "--logbook", str(demo_path), "--job", "2041", "--to", str(tmp_path / "x.pdf")]) == 2
    assert "no second opinion" in capsys.readouterr().err


# -- ledger, files -----------------------------------------------------------------------------------------------------


def test_any_entry_is_struck_and_restored_and_the_ledger_shows_it(gauging):
    reading = gauging.session.state.gauging.readings_of(3, True)[0]
    gauging.type(f"strike {reading.seq} wrong cylinder")
    assert reading.seq in gauging.session.state.struck
    gauging.key(Qt.Key.Key_L, CTRL)
    text = gauging.window.over.panel.body.text()
    assert f"entry {reading.seq} struck: wrong cylinder" in text
    gauging.key(Qt.Key.Key_Escape)
    gauging.type(f"restore {reading.seq}")
    assert reading.seq not in gauging.session.state.struck
    gauging.type("strike 1")
    assert "none that can be struck" in gauging.said


def test_pictures_go_out_as_png_and_svg(gauging, tmp_path):
    gauging.session.select(4)
    gauging.settle()
    (tmp_path / "out").mkdir()
    gauging.do(files.write_pictures, tmp_path / "out")
    names = sorted(p.name for p in (tmp_path / "out").iterdir())
    assert names == [
        "2041-4-down-the-wall.png", "2041-4-down-the-wall.svg", "2041-4-reading-ring.png", "2041-4-reading-ring.svg",
        "2041-4-wall-unrolled.png", "2041-4-wall-unrolled.svg",
    ]  # fmt: skip
    svg = (tmp_path / "out" / "2041-4-wall-unrolled.svg").read_text()
    assert "<poly" in svg and "rust ring" in svg
    assert QImage(str(tmp_path / "out" / "2041-4-reading-ring.png")).width() > 600
    gauging.do(files.write_pictures, tmp_path / "nowhere")
    assert "cannot be written" in gauging.said


def test_a_new_job_of_a_family_is_gauged_by_its_plan(gauging):
    from tests.ui.test_book_in import CARD, fill

    gauging.type("levels 12 60 150 as tall")
    engine, block = gauging.session.state.book_in.engine, gauging.session.state.block
    gauging.key(Qt.Key.Key_N, CTRL)
    fill(gauging, **(CARD | {"engine": engine, "length_mm": f"{block.length_mm:g}"}))
    gauging.key(Qt.Key.Key_Return)
    assert gauging.session.state.gauging.plan.name == "tall" and gauging.session.state.number == CARD["number"]


def test_a_real_gauge_is_read_by_the_pattern_that_is_stated(gauging):
    import os
    import tty

    master, slave = os.openpty()
    tty.setraw(slave)
    gauging.type(f"port {os.ttyname(slave)} two-point in N{{skip}} {{value}}")
    assert "read as N{skip} {value}" in gauging.said
    before = len(gauging.session.state.gauging.readings)
    os.write(master, b"010\r\n")  # the end of a line that had begun before is left out, and told
    gauging.bot.waitUntil(lambda: "it had begun before the port was opened" in gauging.said)
    os.write(master, b"N7 +0.0010\r\n")
    gauging.bot.waitUntil(lambda: len(gauging.session.state.gauging.readings) > before)
    assert gauging.session.state.gauging.readings[-1].raw_mm == pytest.approx(105.0 + 0.0254, abs=2e-3)
    gauging.type("port /dev/x kettle mm {value}")
    assert "which gauge" in gauging.said
    gauging.window.instruments.gauge.let_go()
    os.close(master)
    os.close(slave)
