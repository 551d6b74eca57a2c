"""Booking a job in, on the card."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox

from redline_bore.core.errors import InputError

CTRL = Qt.KeyboardModifier.ControlModifier
CARD = {
    "number": "2050",
    "owner": "Tarn mill",
    "engine": "upright four",
    "bore_mm": "92",
    "stroke_mm": "90",
    "length_mm": "150",
}


def fill(bench, **figures):
    step = bench.window.steps["book_in"]
    for name, text in figures.items():
        editor = step.fields[name]
        if isinstance(editor, QComboBox):
            editor.setCurrentIndex(editor.findData(text))
        else:
            editor.setFocus()
            editor.clear()
            bench.bot.keyClicks(editor, text)
    return step


@pytest.fixture
def card(bench):
    bench.key(Qt.Key.Key_N, CTRL)
    return bench


@pytest.mark.parametrize("layout, cylinders", [("single", "1"), ("inline", "4"), ("vee", "8"), ("flat", "6")])
def test_a_new_job_of_any_layout(card, layout, cylinders):
    fill(card, **CARD, layout=layout, cylinders=cylinders)
    card.key(Qt.Key.Key_Return)
    state = card.session.state
    assert (state.number, state.block.layout, state.block.cylinders) == ("2050", layout, int(cylinders))
    assert card.session.bench.step == "gauge" and state.signing.stamp("book_in").initials == "RM"
    assert card.colours(card.window.plan)  # the plan draws it
    card.session.open_job("2041")
    card.session.open_job("2050")


def test_the_section_redraws_as_figures_are_typed(card):
    step = fill(card, **{k: v for k, v in CARD.items() if k != "length_mm"})
    assert step.section.block is None and "cylinder length" in step.section.missing
    fill(card, length_mm="150")
    assert step.section.block.length_mm == 150.0
    fill(card, room_below_mm="12")
    assert step.section.block.room_below_mm == 12.0


def test_a_wrong_field_is_marked_with_the_reason_and_kept(card):
    step = fill(card, **CARD | {"stroke_mm": "ninety"})
    assert step.fields["stroke_mm"].property("faulty") and "not a length" in step.reasons.text()
    before = len(card.session.logbook.jobs())
    card.key(Qt.Key.Key_Return)
    assert len(card.session.logbook.jobs()) == before and step.fields["stroke_mm"].text() == "ninety"
    fill(card, stroke_mm="90")
    assert not step.fields["stroke_mm"].property("faulty")


def test_a_number_that_is_taken_is_refused(card):
    fill(card, **CARD | {"number": "2041"})
    card.key(Qt.Key.Key_Return)
    assert "already" in card.said and card.window.steps["book_in"].fields["owner"].text() == "Tarn mill"


def test_half_a_card_waits_while_another_job_is_looked_at(card):
    fill(card, number="2050", owner="Tarn mill")
    card.key(Qt.Key.Key_Escape)
    card.session.go("gauge")
    card.key(Qt.Key.Key_N, CTRL)
    assert card.window.steps["book_in"].fields["owner"].text() == "Tarn mill"


def test_a_known_family_fills_the_card(card):
    step = card.window.steps["book_in"]
    assert step.library.count() == 5
    item = next(step.library.item(i) for i in range(4) if "straight five" in step.library.item(i).text())
    step.library.itemActivated.emit(item)
    draft = step.draft()
    assert (draft["bore_mm"], draft["cylinders"], draft["material"], draft["number"]) == ("105", "5", "grey_iron", "")


def test_changes_to_a_job_are_entries(bench):
    bench.go("book_in")
    fill(bench, room_below_mm="20", honing="four steps")
    bench.field.setFocus()
    bench.key(Qt.Key.Key_Return)
    assert (
        bench.session.state.block.room_below_mm == 20.0
        and bench.session.state.booking.practice("honing") == "four steps"
    )
    assert len(bench.session.state.gauging.readings) == 300  # nothing else was touched
    bench.key(Qt.Key.Key_Return)
    assert bench.session.bench.step == "gauge"


def test_an_empty_logbook_begins_with_an_empty_card(bench_on, tmp_path):
    bench = bench_on(None, tmp_path / "new.sqlite")
    assert bench.session.state is None and bench.session.bench.new_job
    assert bench.window.grab().width() == 1280
    with pytest.raises(InputError):
        _ = bench.session.job
    for key in (
        Qt.Key.Key_P,
        Qt.Key.Key_U,
        Qt.Key.Key_W,
        Qt.Key.Key_PageDown,
        Qt.Key.Key_Escape,
        Qt.Key.Key_Space,
        Qt.Key.Key_Backspace,
    ):
        bench.key(key, on=bench.field)  # nothing to do yet, and nothing goes wrong
    fill(bench, **CARD)
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.number == "2050"


def test_a_family_that_was_signed_off_offers_what_it_taught(card):
    step = card.window.steps["book_in"]
    item = next(step.library.item(i) for i in range(5) if "2036" in step.library.item(i).text())
    step.library.itemClicked.emit(item)
    fill(card, number="3036", owner="Tarn mill")
    told = card.window.card._advice
    assert told.sentence == "Ready to book in." and "This family taught 9 figures, in job 2036" in told.changes[0]
    assert any("plateau strokes, brush 600: 12" in c for c in told.changes)
    card.key(Qt.Key.Key_F2)  # W is a letter here
    assert "finish reached" in card.window.panel.body.text()
    card.key(Qt.Key.Key_F2)
    step.fields["owner"].setFocus()
    card.key(Qt.Key.Key_Return)
    state = card.session.state
    assert state.number == "3036" and len(state.booking.lessons) == 9
    assert any(type(r.entry).__name__ == "FamilyOffered" for r in card.session.records)


def test_a_family_without_a_signed_job_offers_nothing(card):
    step = card.window.steps["book_in"]
    item = next(step.library.item(i) for i in range(5) if "2044" in step.library.item(i).text())
    step.library.itemClicked.emit(item)
    fill(card, number="3044", owner="Tarn mill")
    assert not any("family taught" in c for c in card.window.card._advice.changes)
    card.key(Qt.Key.Key_Return)
    assert card.session.state.number == "3044" and card.session.state.booking.lessons == ()


def test_what_a_family_taught_is_proposed_at_the_hone_and_told_at_the_finish(card):
    from redline_bore.job.hone import set_up as hone_setup

    step = card.window.steps["book_in"]
    item = next(step.library.item(i) for i in range(5) if "2036" in step.library.item(i).text())
    step.library.itemClicked.emit(item)
    fill(card, number="3036", owner="Tarn mill")
    card.key(Qt.Key.Key_Return)
    card.go("hone")
    card.session.set_page("set_up")
    card.type("stones diamond 200 4 x 6mm long 95mm")
    card.type("hone vertical")
    assert card.session.state.honing.run.over_top_mm == pytest.approx(26.0)
    assert hone_setup.usual_over(card.session.state)[0] == pytest.approx(26.0)
    card.go("finish")
    assert any("This family before: plateau strokes" in c for c in card.window.card._advice.changes)
