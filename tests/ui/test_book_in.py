"""Booking a job in, on the card."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox

from redline_bore.core.errors import InputError
from redline_bore.job.lessons import MINUTES

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
    step = fill(card, **{k: v for k, v in CARD.items() if k not in ("length_mm", "stroke_mm")})
    assert step.section.block is None and "stroke" in step.section.missing
    fill(card, stroke_mm="90")
    assert step.section.block.length_mm == pytest.approx(144.0)  # drawn by the stroke until somebody measures it
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
    assert (draft["bore_mm"], draft["cylinders"], draft["material"], draft["number"]) == (
        "105",
        "5",
        "grey_iron",
        "2048",
    )


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
    assert any("Plateau strokes, brush 600: 12" in c for c in told.changes)
    card.key(Qt.Key.Key_F2)  # W is a letter here
    assert "finish reached" in card.window.over.panel.body.text()
    card.key(Qt.Key.Key_F2)
    step.fields["owner"].setFocus()
    card.key(Qt.Key.Key_Return)
    state = card.session.state
    lessons = state.booking.lessons
    assert state.number == "3036" and len([x for x in lessons if x.what != MINUTES]) == 9
    assert [x.about for x in lessons if x.what == MINUTES] == ["gauge", "bore", "hone", "finish"]
    assert any(type(r.entry).__name__ == "FamilyOffered" for r in card.session.records)


def test_a_family_without_a_signed_job_tells_how_long_its_steps_took_and_nothing_else(card):
    step = card.window.steps["book_in"]
    item = next(step.library.item(i) for i in range(5) if "2044" in step.library.item(i).text())
    step.library.itemClicked.emit(item)
    fill(card, number="3044", owner="Tarn mill")
    told = card.window.card._advice.changes
    assert not any("family taught" in c for c in told)
    assert not any("take is known" in c for c in told)  # it changes nothing that is said here; W tells it
    assert any("bench minutes a cylinder, bore" in w.text for w in card.window.card._advice.working)
    card.key(Qt.Key.Key_Return)
    assert card.session.state.number == "3044"
    told = {x.about: x for x in card.session.state.booking.lessons}
    assert {x.what for x in told.values()} == {MINUTES} and set(told) == {"gauge", "sleeve", "bore"}


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


# -- it begins with what is known --------------------------------------------------------------------------------------


def test_bore_stroke_and_cylinders_begin_a_job_and_the_length_is_asked_at_the_gauge(card):
    step = card.window.steps["book_in"]
    assert step.fields["bore_mm"].hasFocus() and step.draft()["number"] == "2048" and step.rest.isHidden()
    fill(card, bore_mm="95", stroke_mm="110")
    card.key(Qt.Key.Key_Return)
    state = card.session.state
    assert (state.number, state.block.cylinders, state.book_in.owner) == ("2048", 5, "")
    assert state.book_in.length_wanted and card.session.bench.step == "gauge"
    told = card.window.card._advice
    assert "how long a cylinder is" in told.sentence and told.figures[0].value == "not known"
    card.type("defect ridge 5 10 0 90")  # nothing is said of a depth before
    assert "length" in card.said and not card.session.state.gauging.defects
    card.type("100")
    assert "Have they changed places" in card.said or "not shorter" in card.said
    card.type("178.5")
    state = card.session.state
    assert state.block.length_mm == 178.5 and not state.book_in.length_wanted
    assert max(state.gauging.plan.depths_mm) < 178.5 and "Read level A" in card.window.card._advice.sentence
    card.type("owner Tarn mill")
    assert card.session.state.book_in.owner == "Tarn mill"
    assert next(j for j in card.session.logbook.jobs() if j.number == "2048").owner == "Tarn mill"


def test_the_rest_of_the_card_opens_with_a_key(card):
    step = card.window.steps["book_in"]
    card.key(Qt.Key.Key_R, Qt.KeyboardModifier.AltModifier)
    assert not step.rest.isHidden()
    fill(card, length_mm="150", bore_mm="95", stroke_mm="110")
    card.key(Qt.Key.Key_Return)
    assert card.session.state.block.length_mm == 150.0 and not card.session.state.book_in.length_wanted


def test_an_inch_job_begins_with_inch_oversizes_and_own_ones_stay(card):
    step = card.window.steps["book_in"]
    fill(card, units="inch")
    assert step.draft()["oversizes"].split()[0] == "0.01"
    fill(card, oversizes="0.015 0.035", units="metric")
    assert step.draft()["oversizes"] == "0.015 0.035"


def test_letters_at_a_choice_pick_from_it_and_do_nothing_else(card):
    box = card.window.steps["book_in"].fields["layout"]
    box.setFocus()
    card.bot.keyClicks(box, "f")  # F finds elsewhere
    assert box.currentData() == "flat" and card.session.bench.new_job
    card.bot.keyClick(box, Qt.Key.Key_Up)
    assert box.currentData() == "vee"


def test_another_like_this_one_begins_as_it_is(bench):
    bench.key(Qt.Key.Key_N, CTRL | Qt.KeyboardModifier.ShiftModifier)
    draft = bench.window.steps["book_in"].draft()
    assert (draft["number"], draft["bore_mm"], draft["engine"]) == ("2048", "105", "engine no. 2, straight five")
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.number == "2048" and bench.session.state.block.length_mm == 212.0


def test_what_cannot_be_speaks_the_labels_of_the_card_in_the_units_of_the_job(card):
    step = fill(card, units="inch", bore_mm="3.5", stroke_mm="3", pitch_mm="3")
    assert "bore pitch: 3.0000 in is not more than the bore" in step.reasons.text()
