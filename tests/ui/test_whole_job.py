"""One block from end to end, by keys only: booked in, gauged with the gauge, called, honed, traced, signed off, written out."""

import json

import pytest
from PyQt6.QtCore import Qt

from redline_bore.cli import main
from redline_bore.job.bore.plan import plan_of
from redline_bore.job.call.ladder import ladder_of
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.hone.progress import progress_of
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.store.logbook import Logbook
from redline_bore.ui.commands import files
from redline_bore.ui.instrument_link import InstrumentLink
from tests.ui.test_book_in import fill

CTRL = Qt.KeyboardModifier.ControlModifier
CARD = {
    "number": "3001", "owner": "Tarn mill", "engine": "single, water cooled", "layout": "single", "cylinders": "1",
    "bore_mm": "92", "stroke_mm": "90", "length_mm": "150", "room_below_mm": "20", "ring_top_mm": "10", "ring_pack_mm": "12",
}  # fmt: skip


def test_a_block_from_end_to_end(bench_on, tmp_path, capsys, monkeypatch):
    monkeypatch.setattr(InstrumentLink, "simulated", False)  # as if they were plugged in: practice is not signed
    bench = bench_on(None, tmp_path / "new.sqlite")
    book_in(bench)
    gauge(bench)
    call_it(bench)
    bore_it(bench)
    hone(bench)
    finish(bench)
    sign_off(bench, tmp_path)
    look_it_up_without_a_window(bench, tmp_path, capsys)


def book_in(bench):
    fill(bench, **CARD)
    assert bench.call == "Ready to book in."
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.number == "3001" and bench.call == "Read level A at 0°, then B."
    bench.type("20.6 C")
    bench.key(Qt.Key.Key_P)  # the plate goes on


def gauge(bench):
    bench.key(Qt.Key.Key_G, CTRL)
    bench.bot.waitUntil(lambda: "gauge answers" in bench.said)
    for _ in range(len(bench.session.state.gauging.plan.places())):
        bench.key(Qt.Key.Key_Space)
        bench.bot.waitUntil(lambda: bench.field.text() != "")
        bench.key(Qt.Key.Key_Return)
    state = bench.session.state
    assert len(state.gauging.readings) == 30 and all(r.plate_on and r.block_c == 20.6 for r in state.gauging.readings)
    assert (
        shape_of(state, 1).axial.shape_class == "top-open" and bench.call == "All cylinders are read. Go to the call."
    )
    bench.key(Qt.Key.Key_Return)


def call_it(bench):
    assert bench.session.bench.step == "call" and bench.session.state.signing.stamp("gauge").initials == "RM"
    ladder = ladder_of(bench.session.state)
    assert ladder.smallest_possible == bench.session.rung_mm and "it will clean up, by all that was read" in bench.call
    while bench.session.rung_mm < ladder.smallest_sure:
        bench.key(Qt.Key.Key_Up)
    bench.key(Qt.Key.Key_W)
    assert "high end" in bench.window.over.panel.body.text()
    bench.key(Qt.Key.Key_Escape)
    bench.type("sheet 0.045 0.075")
    bench.take_call()
    decision = bench.session.state.calling.decision
    assert decision is not None, bench.said
    assert decision.oversize_mm == ladder.smallest_sure and decision.sentence.startswith("Bore it")
    bench.type(f"{92 + decision.oversize_mm - 0.055:.3f} 20 C")


def bore_it(bench):
    bench.key(Qt.Key.Key_PageDown)
    bench.type("bar TPG 321 feed 0.1 rpm 1000 mains")
    target = plan_of(bench.session.state, 1).target_mm
    assert "Prove this first hole" in bench.call
    bench.type(f"{target:.3f} {target - 0.001:.3f}")
    assert "is left for the hone" in bench.call
    bench.key(Qt.Key.Key_Return)
    assert bench.session.bench.step == "hone" and bench.session.state.signing.stamp("bore").initials == "RM"


def hone(bench):
    redline = progress_of(bench.session.state, 1).redline.size_mm
    assert redline == pytest.approx(92 + bench.session.state.calling.decision.oversize_mm + 0.005, abs=1e-6)
    warm = 1 + 11e-6 * 0.6
    for strokes, left in ((0, 0.060), (20, 0.044), (40, 0.029), (60, 0.013), (68, 0.0055)):
        bench.type(f"{strokes} {(redline - left) * warm:.4f}")
    assert "N goes to plateau" in bench.call
    bench.key(Qt.Key.Key_N)
    for strokes, left in ((0, 0.0055), (12, 0.0050)):
        bench.type(f"{strokes} {(redline - left) * warm:.4f}")
    assert bench.call == "12 light strokes are done: stop, let it cool, gauge; then trace it."
    assert bench.window.plan.said() == "cylinder 1: 0.005 read ends"


def finish(bench):
    assert "Stamp and go to the finish" in bench.window.card.button.text()
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.signing.stamp("hone").initials == "RM"
    assert bench.session.bench.step == "finish" and "Trace cylinder 1" in bench.call
    bench.key(Qt.Key.Key_6, CTRL)
    bench.bot.waitUntil(lambda: "profilometer answers" in bench.said)
    for count in (1, 2, 3):
        bench.key(Qt.Key.Key_Space)
        bench.bot.waitUntil(lambda n=count: len(bench.session.state.finishing.traces) == n)
    assert [t.plateau_strokes for t in bench.session.state.finishing.traces] == [12.0] * 3
    bench.key(Qt.Key.Key_Return)
    assert bench.session.bench.step == "sign_off" and bench.session.state.signing.stamp("finish").initials == "RM"


def sign_off(bench, tmp_path):
    bench.settle()
    redline = progress_of(bench.session.state, 1).redline.size_mm
    bench.type(
        f"final {redline - 0.005:.4f} {redline - 0.0054:.4f} across {redline - 0.0052:.4f} {redline - 0.005:.4f}"
    )
    assert "open point" in bench.call
    bench.take_points_on()
    assert bench.call == "Every clearance is in its window at both ends. Sign off."
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.signing.stamp("sign_off").initials == "RM"
    bench.do(files.export_to, tmp_path, "3001")
    html = (tmp_path / "3001-shop.html").read_text()
    assert "Tarn mill" in html and html.count("<svg") == 2 and "Sign off: RM" in html
    bench.type("final 92.5", enter=True)
    assert "signed off" in bench.said  # a signed job is closed


def look_it_up_without_a_window(bench, tmp_path, capsys):
    assert main(["jobs", "--logbook", str(tmp_path / "new.sqlite"), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)[0]["step"] == "sign_off"
    other = tmp_path / "other.sqlite"
    assert main(["import", "--logbook", str(other), str(tmp_path / "3001-job.json")]) == 0
    book = Logbook(other)
    assert book.ledger(book.job_id("3001")) == bench.session.records
    assert sum(isinstance(r.entry, ReadingBooked) for r in bench.session.records) == 30
    book.close()
