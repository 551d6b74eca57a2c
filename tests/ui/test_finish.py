"""The finish step in the real window: traced with the stand-in, from files, judged, foretold, the crosshatch from a picture."""

import shutil

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QFileDialog

from redline_bore.core.texture.profile import even_trace
from redline_bore.job.finish.judgement import finish_of
from redline_bore.job.kinds.hone import HoneStepBegan
from redline_bore.job.sign_off.sheet import sheet_of
from redline_bore.job.words.sign_off import point_words
from redline_bore.store.traces.files import write_trace
from redline_bore.ui import verbs
from redline_bore.ui.commands import files
from redline_bore.ui.steps.finish_pages.all_cylinders import HEAD_PX, TITLE_PX, AllView
from redline_bore.ui.steps.finish_pages.hatch import HatchView
from redline_bore.ui.steps.finish_pages.paper import PaperView, TwinsView
from redline_bore.ui.steps.finish_pages.trace import TraceView
from tests.vectors.texture_cases import HERE

K, CTRL = Qt.Key, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def launch(bench_on):
    """Job 2036, opened again."""
    bench = bench_on("2036")
    bench.go("sign_off")
    bench.type("reopen to trace once more")
    bench.go("finish")
    return bench


def told(sheet):
    """The open points of a sheet, as they are said."""
    return tuple(point_words(p) for p in sheet.open_points)


def page(bench, name):
    bench.session.set_page(name)
    bench.settle()
    return bench.window.step.page


def traces(bench):
    return len(bench.session.state.finishing.traces)


def connected(bench):
    bench.key(K.Key_6, CTRL)
    bench.bot.waitUntil(lambda: "profilometer answers" in bench.said)


def test_every_page_shows_the_demo_walls_and_says_so(launch):
    assert "The finish of cylinder 1 is in its windows." in launch.call
    seen = []
    for _ in range(5):
        launch.settle()
        view = launch.window.step.page
        seen.append(view.name)
        assert launch.call and len(launch.colours(launch.window.step)) > 10
        launch.key(K.Key_V)
    assert seen == ["trace", "all", "plateau", "paper", "hatch"]
    launch.key(K.Key_Right)
    assert launch.session.bench.cylinder == 2
    launch.key(K.Key_Right)
    assert launch.session.bench.cylinder == 1


def test_the_pages_look_different_by_night(launch):
    day = launch.colours(launch.window.step)
    launch.key(K.Key_D, CTRL)
    night = launch.colours(launch.window.step)
    assert max(day, key=day.get) != max(night, key=night.get)


def test_space_traces_where_the_spot_is_lit_and_the_next_one_lights_up(launch):
    before = traces(launch)
    connected(launch)
    launch.session.set_spot(0)
    launch.key(K.Key_Space)
    launch.bot.waitUntil(lambda: traces(launch) == before + 1)
    trace = launch.session.state.finishing.traces[-1]
    assert trace.plateau_strokes == 12.0 and trace.source == "profilometer" and trace.cylinder == 1
    assert finish_of(launch.session.state, 1).fine and launch.said.startswith("Traced: cylinder 1, top")
    launch.key(K.Key_Backspace)
    assert traces(launch) == before


def test_up_and_down_walk_the_spots_and_stay_on_the_wall(launch):
    launch.session.set_spot(0)
    launch.key(K.Key_Up)
    assert launch.session.bench.spot == 0
    for _ in range(4):
        launch.key(K.Key_Down)
    assert launch.session.bench.spot == 2


def test_a_file_that_states_its_units_is_taken_in(launch, monkeypatch):
    before = traces(launch)
    for name in ("everyday.csv", "everyday.x3p", "everyday.sdf"):
        monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, n=name: (str(HERE / n), ""))
        launch.key(K.Key_O, CTRL)
    assert traces(launch) == before + 3
    assert [t.source for t in launch.session.state.finishing.traces[-3:]] == [
        "everyday.csv",
        "everyday.x3p",
        "everyday.sdf",
    ]


def test_a_file_that_does_not_is_asked_about(launch, monkeypatch, tmp_path):
    lines = (HERE / "everyday.csv").read_text().splitlines()[1:]
    path = tmp_path / "bare wall.csv"
    path.write_text("\n".join(lines))
    before = traces(launch)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(path), ""))
    launch.key(K.Key_O, CTRL)
    assert traces(launch) == before and "does not state its units" in launch.said
    assert launch.field.text() == f"trace {path} mm um"
    launch.key(K.Key_Return)
    assert traces(launch) == before + 1


@pytest.mark.parametrize(
    "name, words",
    [
        ("missing_points.csv", "26 points are missing"),
        ("uneven.csv", "not evenly spaced"),
        ("short_2mm.csv", "too short"),
    ],
)
def test_a_bad_trace_is_refused_with_its_reason_and_what_was_typed_stays(launch, name, words):
    before = len(launch.session.records)
    launch.type(f"trace {HERE / name} at top before")
    assert words in launch.said and len(launch.session.records) == before and name in launch.field.text()


def test_a_trace_typed_says_where_and_when(launch):
    launch.type(f"trace {HERE / 'coarse_comma.csv'} at bottom before")
    trace = launch.session.state.finishing.traces[-1]
    assert trace.plateau_strokes == 0.0 and trace.depth_mm > 80
    launch.type(f"trace {HERE / 'coarse_comma.csv'} at 40mm after 12")
    assert (
        launch.session.state.finishing.traces[-1].plateau_strokes == 12.0
        and launch.session.state.finishing.traces[-1].depth_mm == 40.0
    )
    launch.type("trace")
    assert "A trace is taken in as" in launch.said


def test_the_ring_makers_window_is_typed_and_wins(launch):
    launch.type("window Rvk 3.0 4.0 um by moly ring")
    assert "Rvk is under its window" in launch.call or "Rvk may be under" in launch.call
    assert any("finish out of its window" in p for p in told(sheet_of(launch.session.state)))
    launch.type("window Rxx 1 2")
    assert "has no window" in launch.said


def test_c_judges_by_the_other_practice(launch):
    launch.key(K.Key_C)
    assert launch.session.state.booking.practice("finish") == "ra and rz" and "Judged by" in launch.said
    launch.key(K.Key_C)
    assert launch.session.state.booking.practice("finish") == "rk family"


def test_the_plateau_page_works_it_out_off_the_thread(launch):
    view = page(launch, "plateau")
    launch.bot.waitUntil(lambda: view.now()[0] is not None)
    found = view.now()[0]
    assert len(found.rate.pairs) == 6 and "Traced after 12 strokes" in launch.call
    assert "in the windows from" in view.findChildren(type(view.children()[1]))[0].said()
    launch.key(K.Key_Return)
    assert launch.session.bench.step == "sign_off"


def test_a_plateau_that_cannot_be_foretold_says_what_is_missing(bench_on):
    bench = bench_on("2044")
    bench.go("finish")
    view = page(bench, "plateau")
    bench.bot.waitUntil(lambda: view.now()[1] != "")
    assert "has not been traced: trace it before the plateau" in bench.call


# -- the crosshatch ------------------------------------------------------------------------------------------------


def test_a_picture_is_read_and_kept(launch, monkeypatch, tmp_path):
    from redline_bore.demo import pictures

    source = next(p for p in pictures.__path__)
    shutil.copy(f"{source}/2036-1.png", tmp_path / "mine.png")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: (str(tmp_path / "mine.png"), ""))
    launch.session.select(2)
    launch.key(K.Key_I, CTRL)
    seen = launch.session.state.finishing.hatch_of(2)
    assert seen.included_deg == pytest.approx(17.4 + 16.2, abs=1.0) and launch.session.bench.page == "hatch"
    assert launch.session.state.gauging.photos_of(seen.seq) and "is kept" in launch.said


def test_a_picture_that_tells_nothing_is_refused_and_not_kept(launch, tmp_path, qapp):
    from PyQt6.QtGui import QImage

    empty = QImage(300, 300, QImage.Format.Format_RGB32)
    empty.fill(0x808080)
    empty.save(str(tmp_path / "empty.png"))
    before = len(launch.session.records)
    launch.type(f"picture {tmp_path / 'empty.png'}")
    assert "nothing in this picture" in launch.said and len(launch.session.records) == before
    (tmp_path / "none.png").write_text("hello")
    launch.key(K.Key_Escape)
    launch.type(f"picture {tmp_path / 'none.png'}")
    assert "neither a PNG nor a JPEG" in launch.said and len(launch.session.records) == before


# -- a closed job --------------------------------------------------------------------------------------------------


def test_a_signed_job_takes_no_trace(bench_on, tmp_path):
    bench = bench_on("2036")
    bench.go("finish")
    before = len(bench.session.records)
    bench.type(f"trace {HERE / 'everyday.csv'} at top")
    assert "signed off by RM" in bench.said and len(bench.session.records) == before


def test_a_trace_from_before_the_plateau_stops_a_wall_without_valleys(bench_on, tmp_path):
    import numpy as np

    smooth = even_trace(0.5, 0.2 * np.sin(np.arange(11201) / 9.0))
    write_trace(smooth, tmp_path / "smooth.x3p")
    bench = bench_on("2044")
    bench.go("finish")
    bench.session.book(HoneStepBegan(cylinder=1, step=1))
    bench.type(f"trace {tmp_path / 'smooth.x3p'} at middle before")
    assert bench.call.startswith("Stop. No plateau yet: Rz")
    view = page(bench, "plateau")
    bench.bot.waitUntil(lambda: view.now()[0] is not None)
    assert "Unreachable from here" in bench.call or "never comes into its window" in bench.call


# -- with the mouse, and broken off ----------------------------------------------------------------------------------


def test_a_click_picks_a_spot_or_a_cylinder(launch):
    view = launch.window.step.page.findChildren(TraceView)[0]
    launch.bot.mouseClick(view, Qt.MouseButton.LeftButton, pos=view._spot_box(2).center().toPoint())
    assert launch.session.bench.spot == 2
    rows = page(launch, "all").findChildren(AllView)[0]
    assert rows.said() == "cylinder 1 in its windows; cylinder 2 in its windows"
    _names, high = rows._layout()
    second = launch.window.theme.px(HEAD_PX + TITLE_PX) + 1.5 * high
    launch.bot.mouseClick(rows, Qt.MouseButton.LeftButton, pos=QPoint(200, round(second)))
    assert launch.session.bench.cylinder == 2
    launch.bot.mouseClick(rows, Qt.MouseButton.LeftButton, pos=QPoint(200, 2))
    assert launch.session.bench.cylinder == 2  # the heading is nobody's


def test_the_views_are_read_aloud(launch):
    assert "Rk" in launch.window.step.page.findChildren(TraceView)[0].said()
    paper = page(launch, "paper")
    launch.bot.waitUntil(lambda: "differs" in paper.findChildren(TwinsView)[0].said())
    assert (
        paper.findChildren(PaperView)[0].said() in ("no plain knee",)
        or "percent" in paper.findChildren(PaperView)[0].said()
    )
    assert "degrees included" in page(launch, "hatch").findChildren(HatchView)[0].said()


def test_a_job_without_traces_shows_what_to_do_on_every_page(bench_on):
    bench = bench_on("2041")
    bench.go("finish")
    for name in ("trace", "all", "plateau", "paper", "hatch"):
        view = page(bench, name)
        assert view.isVisible() and bench.call
    assert "No picture of this wall" in bench.call
    page(bench, "paper")
    assert "Trace cylinder 1 first" in bench.call
    page(bench, "all")
    assert "not traced as they are now" in bench.call
    bench.key(K.Key_Return)
    assert "Nothing is typed: Space traces" in bench.said


def test_esc_breaks_the_forecast_off(launch):
    launch.type("picture")
    launch.key(K.Key_Escape)
    launch.session.set_page("plateau")
    view = launch.window.step.page
    stop = view.deeds()[verbs.BREAK_OFF]
    if stop():  # else it was there at once
        assert "broken off" in view.now()[1] and view.now()[0] is None
        assert not stop()
    launch.settle()


def test_an_unplugged_profilometer_is_said_and_books_nothing(launch):
    connected(launch)
    before = len(launch.session.records)
    launch.window.instruments.profilometer.let_go()
    launch.key(K.Key_Space)
    launch.settle()
    assert len(launch.session.records) == before and launch.said


def test_a_picture_of_the_finish_goes_out(launch, tmp_path):
    folder = tmp_path / "out"
    folder.mkdir()
    launch.do(files.write_pictures, folder)
    names = sorted(p.name for p in folder.iterdir())
    assert "2036-1-trace-and-curve.png" in names and "2036-1-trace-and-curve.svg" in names


def test_where_nothing_was_bored_no_plateau_is_spoken_of_and_the_way_on_is_shown(bench):
    from redline_bore.job.kinds.call import DecisionTaken

    bench.session.book(DecisionTaken(oversize_mm=0.0, sentence="Re-ring with the pistons there are.", way="rering"))
    bench.go("finish")
    assert bench.session.job.calling.decision.bores is False
    assert bench.call.startswith("Nothing was bored") and "plateau" not in bench.window.line.where.text()
    assert bench.window.card.button.text().startswith("Stamp and sign off")
