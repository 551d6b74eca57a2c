"""By hand: find by a word, change what stands on a tag, say who works; every line that can be typed can be filled in by keys and by pointer."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from redline_bore.cli.main import main
from redline_bore.core.errors import BenchError, DoubtfulInput
from redline_bore.desk.tag import phrases_of
from redline_bore.desk.would import completed, would_book
from redline_bore.job.kinds.forms import parsed, read_back
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.ui.commands.command import commands
from redline_bore.ui.commands.find import all_drawers, at_now, hang
from redline_bore.ui.frame.chest import MOST

K, CTRL, ALT = Qt.Key, Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier


def lines_there_are():
    """Every line that can be typed, once, with a step in which it can."""
    from redline_bore.job.state.job_state import STEPS

    seen = {}
    for step in STEPS:
        for kind, phrase in phrases_of(step):
            seen.setdefault(phrase.form, (step, kind.name, phrase))
    return [(step, name, phrase) for step, name, phrase in seen.values()]


LINES = lines_there_are()


@pytest.fixture(scope="module")
def shop(demo_master, tmp_path_factory):
    """A logbook that a whole row of tests may book into."""
    import shutil

    return shutil.copy(demo_master, tmp_path_factory.mktemp("hands") / "logbook.sqlite")


@pytest.fixture
def hands(bench_on, shop):
    return bench_on("2041", shop)


@pytest.mark.parametrize(("step", "name", "phrase"), LINES, ids=[f"{s}-{n}-{i}" for i, (s, n, _) in enumerate(LINES)])
def test_what_is_typed_is_filled_in_by_keys_by_pointer_and_from_the_command_line_alike(
    hands, shop, step, name, phrase, capsys
):
    """Four ways to the same entries; each is struck out again before the next is tried."""
    session, window = hands.session, hands.window
    if step == "sleeve":
        session.open_job("2044")
    session.go(step)
    kind = next(k for k, p in phrases_of(step) if p is phrase)
    found, tag = example_of(hands, phrase), None
    if found is None:  # it is refused here in words: by hand as when typed
        hang(window, step, kind, phrase)
        assert not window.over.tag.said().can
        return
    text, filled = found

    def typed():
        for _ in range(2):
            try:
                session.book_typed(step, text)
                return
            except DoubtfulInput:
                continue

    wanted = taken_back(session, typed)
    assert wanted
    hang(window, step, kind, phrase)
    tag = window.over.tag
    assert tag.isVisible() and tag.tag.phrase is phrase
    by_hand(hands, tag, filled)
    assert tag.said().line == " ".join(text.split())
    assert taken_back(session, lambda: press_book(tag)) == wanted, "by pointer"
    hang(window, step, kind, phrase)
    by_hand(hands, tag, filled)
    assert taken_back(session, lambda: enter_twice(hands)) == wanted, "by keys"
    at = session.bench.place
    where = [
        "--cylinder",
        str(session.bench.cylinder),
        "--level",
        str(at.level + 1),
        "--clock",
        str(at.clock + 1),
        "--units",
        str(session.bench.units),
    ]

    def from_outside():
        line = [
            "book",
            "--logbook",
            str(shop),
            "--job",
            session.job.number,
            "--step",
            step,
            "--sure",
            *where,
            "--",
            *text.split(),
        ]
        assert main(line) == 0, capsys.readouterr().err
        session.look_again()

    assert taken_back(session, from_outside) == wanted, "from the command line"


def example_of(hands, phrase):
    """An example of the line from the open job, and what it fills the blanks with; None where it is refused here."""
    at = at_now(hands.window)
    text = phrase.example(at)
    try:
        phrase.read(text, at)
    except BenchError:
        return None
    return text, read_back(parsed(phrase.form), text)


def taken_back(session, act):
    """The entries that something books; they are struck out again."""
    before = session.records[-1].seq
    act()
    booked = [r for r in session.records if r.seq > before]
    for record in reversed(booked):
        session.took(session.opened.strike(record.seq, "tried"))
    return [r.entry for r in booked]


def by_hand(hands, tag, filled):
    """Fill the blanks as a person does: drawers by a click, figures by keys."""
    for row in tag.tag.rows:
        widget = tag._rows[row.key]
        if row.sort == "switch":
            if widget.isChecked() != (filled.get(row.key) == "yes"):
                QTest.mouseClick(widget, Qt.MouseButton.LeftButton)
        elif row.sort == "choice":
            at = int(filled.get(row.key, -1)) + (1 if row.optional else 0)
            QTest.mouseClick(widget.findChildren(QPushButton)[max(at, 0)], Qt.MouseButton.LeftButton)
        else:
            field = tag.fields[row.key]
            field.clear()
            field.setFocus()
            text = filled.get(row.key, "")
            if text.isascii():
                QTest.keyClicks(field, text)
            else:  # the test library has no key for a true minus
                field.insert(text)


def press_book(tag):
    if tag.because.isVisible():  # something speaks against it: why it is booked all the same
        assert not tag.book.isEnabled()
        tag.because.setText("read twice")
    QTest.mouseClick(tag.book, Qt.MouseButton.LeftButton)


def enter_twice(hands):
    hands.key(K.Key_Return)
    if hands.window.over.has_tag:
        assert hands.window.over.tag.because.hasFocus()
        hands.bot.keyClicks(hands.window.over.tag.because, "read twice")
        hands.key(K.Key_Return)


# -- the tag -----------------------------------------------------------------------------------------------------------


def tag_on(hands, step, name):
    kind, phrase = next((k, p) for k, p in phrases_of(step) if k.name == name)
    hang(hands.window, step, kind, phrase)
    return hands.window.over.tag


def test_a_tag_begins_with_what_stands_and_says_what_it_would_book(hands):
    hands.session.book(BlockTemperature(block_c=21.3))
    tag = tag_on(hands, "gauge", "block_temperature")
    (field,) = tag.fields.values()
    assert field.text() == "21.3 C" and "21.3" in tag.was.text() and "RM" in tag.was.text()
    field.setText("22.4 C")
    assert tag.preview.text() == "It would book: block at 22.4 °C" and tag.book.isEnabled()
    assert hands.said == "22.4 C" and "same, typed" in hands.window.line.where.text()
    field.setText("900 C")
    assert "no temperature" in tag.preview.text() and not tag.book.isEnabled()
    before = len(hands.session.records)
    hands.key(K.Key_Return)
    assert hands.window.over.has_tag and len(hands.session.records) == before
    hands.key(K.Key_Escape)
    assert not hands.window.over.has_tag and hands.session.job.clamped.block_c == 21.3


def test_what_was_measured_is_never_offered_to_be_booked_again(hands):
    tag = tag_on(hands, "gauge", "reading_booked")
    assert all(not f.text() for f in tag.fields.values()) and "105" in tag.was.text()


def test_an_empty_blank_is_named_and_has_the_keys(hands):
    tag = tag_on(hands, "gauge", "ring_gap_read")
    first, second = tag.fields.values()
    first.setText("0.5")
    assert "“" in tag.preview.text() and "not filled in" in tag.preview.text()
    hands.key(K.Key_Return)
    assert second.hasFocus()


def test_a_drawer_fills_its_blank(hands):
    tag = tag_on(hands, "hone", "stones_set")
    chip = next(b for b in tag.findChildren(QPushButton) if b.text() == "vitrified 220")
    QTest.mouseClick(chip, Qt.MouseButton.LeftButton)
    assert next(iter(tag.fields.values())).text() == "vitrified 220"


def test_a_way_that_is_not_chosen_shows_no_blanks_of_its_own(hands):
    tag = tag_on(hands, "gauge", "clamping_stated")
    kind, phrase = next((k, p) for k, p in phrases_of("gauge") if p.leads == ("head",))
    hang(hands.window, "gauge", kind, phrase)
    shown = [f for f in tag.fields.values() if f.isVisible()]
    assert not shown
    chips = tag.findChildren(QPushButton)
    QTest.mouseClick(next(b for b in chips if b.text() == "as follows"), Qt.MouseButton.LeftButton)
    assert len([f for f in tag.fields.values() if f.isVisible()]) >= 6


def test_on_a_closed_job_a_tag_is_refused_where_it_hangs(bench_on):
    hands = bench_on("2036")
    tag = tag_on(hands, "gauge", "block_temperature")
    next(iter(tag.fields.values())).setText("20.4 C")
    hands.key(K.Key_Return)
    assert hands.window.over.has_tag and "signed" in tag.preview.text()


# -- find --------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("asked", "title", "kind"),
    [("taper", "Readings", "see"), ("print", "The customer's sheet as PDF", "do"), ("cold sleeve", "How cold the sleeves are made", "book"),
     ("who", "Who is working: what is booked is booked by", "do"), ("stones pack", "The stones in the pack", "book"), ("2044", "2044  Brackenfell light railway", "job"),
     ("night", "Night shift or day", "do"), ("overstroke", "Set-up", "see"), ("skin", "Cleanup: skin", "figure"), ("undo", "Strike out the last entry", "do")],
)  # fmt: skip
def test_a_word_of_the_shop_finds_it_among_the_first(hands, asked, title, kind):
    hands.key(K.Key_F, CTRL)
    hands.bot.keyClicks(hands.field, asked)
    found = [(d.title.lower(), d.kind) for d in hands.window.over.chest.found[:4]]
    assert (title.lower(), kind) in found, [d.title for d in hands.window.over.chest.found]


def test_find_leaves_what_was_typed_and_where_one_stood(hands):
    hands.go("gauge")
    hands.type("105.2", enter=False)
    hands.key(K.Key_F, CTRL)
    assert hands.window.over.is_looking and hands.field.text() == ""
    hands.bot.keyClicks(hands.field, "ladder")
    hands.key(K.Key_Escape)
    assert not hands.window.over.is_looking and hands.field.text() == "105.2" and hands.session.bench.step == "gauge"


def test_find_opens_a_page_a_tag_a_job_and_a_figure(hands):
    for asked, done in (
        ("deck and counterbore", lambda: True),
        ("stock ledger", lambda: hands.session.bench.page == "ledger"),
        ("crosshatch wanted", lambda: hands.window.over.has_tag),
        ("2047", lambda: hands.session.job.number == "2047"),
    ):
        hands.key(K.Key_F, CTRL)
        hands.bot.keyClicks(hands.field, asked)
        hands.key(K.Key_Return)
        hands.settle()
        assert done(), asked
    hands.key(K.Key_F, CTRL)
    hands.bot.keyClicks(hands.field, "skin")
    chest = hands.window.over.chest
    chest.at = next(i for i, d in enumerate(chest.found) if d.kind == "figure")
    hands.key(K.Key_Return)
    assert "skin" in hands.window.lists.figures.search.text()


def test_drawers_are_opened_by_number_and_by_pointer(hands):
    hands.key(K.Key_E)
    chest = hands.window.over.chest
    second = chest.found[1].title
    hands.key(K.Key_2, ALT)
    assert hands.window.over.has_tag and second.startswith(hands.window.over.tag.title.text()[:10])
    hands.key(K.Key_Escape)
    hands.key(K.Key_E)
    box = chest._box(2)
    third = chest.in_sight[2][1].title
    QTest.mouseClick(
        chest,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
        QPoint(int(box.center().x()), int(box.center().y())),
    )
    assert hands.window.over.has_tag and third.startswith(hands.window.over.tag.title.text()[:10])


def test_more_drawers_than_fit_are_walked_through(hands):
    hands.go("gauge")
    hands.key(K.Key_E)
    chest = hands.window.over.chest
    assert len(chest.found) > MOST
    for _ in range(len(chest.found) + 3):
        hands.key(K.Key_Down)
    assert chest.at == len(chest.found) - 1 and chest.in_sight[-1][0] == chest.at
    hands.window.grab()


def test_what_cannot_be_done_now_stays_in_the_chest_with_its_reason(hands):
    hands.go("gauge")
    hands.key(K.Key_F, CTRL)
    hands.bot.keyClicks(hands.field, "compare with")
    (drawer,) = [d for d in hands.window.over.chest.found if d.kind == "do"]
    assert "call step" in drawer.locked
    hands.key(K.Key_Return)
    assert hands.window.over.is_looking


def test_everything_there_is_has_a_drawer(hands):
    titles = {d.title for d in all_drawers(hands.window)}
    assert {c.words for c in commands() if c.name not in ("find", "enter", "leave")} <= titles
    for step in hands.session.steps:
        for _kind, phrase in phrases_of(step):
            assert any(t.lower().startswith(phrase.help.split(";")[0].lower()[:20]) for t in titles)


# -- who, and a note ---------------------------------------------------------------------------------------------------


def test_who_works_is_seen_and_changed_with_one_touch(hands):
    strip = hands.window.strip
    assert strip.who.text() == "RM"
    QTest.mouseClick(strip.who, Qt.MouseButton.LeftButton)
    hands.bot.keyClicks(hands.field, "tw")
    hands.key(K.Key_Return)
    assert hands.session.person == "TW" and strip.who.text() == "TW" and "TW" in strip.who.accessibleName()
    hands.key(K.Key_Q)
    assert [d.title for d in hands.window.over.chest.found][:1] == ["TW"] or "TW" in [
        d.title for d in hands.window.over.chest.found
    ]
    hands.key(K.Key_Escape)
    hands.session.set_person("RM")


def test_a_note_is_left_with_one_key_in_every_step(hands):
    for step in hands.session.steps[1:]:
        hands.go(step)
        hands.key(K.Key_I)
        assert hands.window.over.has_tag, step
        hands.bot.keyClicks(next(iter(hands.window.over.tag.fields.values())), f"seen at {step}")
        hands.key(K.Key_Return)
        assert hands.session.job.booking.remarks[-1] == f"seen at {step}"


# -- the line answers while one types ----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("step", "text", "said", "can"),
    [("gauge", "105.21", "Enter books: 1: 105.21", True), ("gauge", "22.9 C", "Enter books: block at 22.9 °C", True), ("gauge", "sto", "stop DEPTH", False),
     ("gauge", "stop", "stop DEPTH: where the top ring stops", False), ("gauge", "stopp 3", "perhaps “stop” was meant", False), ("gauge", "1", "", False), ("gauge", "", "", False),
     ("hone", "angle 30", "Enter books: crosshatch wanted", True), ("hone", "angle 300", "no crosshatch", False), ("gauge", "x" * 5000, "", False)],
)  # fmt: skip
def test_the_line_answers_before_enter(hands, step, text, said, can):
    found = would_book(step, text, hands.session.job, hands.session.where)
    assert said in found.words and found.can is can and (said or not found.words)


def test_the_answer_stands_in_pencil_and_goes_with_the_line(hands):
    hands.go("gauge")
    hands.type("22.9 C", enter=False)
    assert hands.said == "Enter books: block at 22.9 °C" and hands.window.line.what.objectName() == "pencil"
    hands.key(K.Key_Escape)
    assert hands.window.line.what.objectName() == ""


@pytest.mark.parametrize(
    ("text", "whole"),
    [("stu", ""), ("sto", "stop "), ("spi", "spindle "), ("pl", "pla"), ("plan", "plan "), ("x", ""), ("stop 3", "")],
)
def test_tab_completes_a_word(text, whole):
    assert completed("gauge", text) == whole


def test_up_brings_back_what_was_entered_and_a_refused_line_is_replaced_by_typing(hands):
    hands.go("gauge")
    hands.type("remark first")
    hands.type("remark second")
    hands.key(K.Key_M)
    hands.key(K.Key_Up)
    assert hands.field.text() == "remark second"
    hands.key(K.Key_Up)
    assert hands.field.text() == "remark first"
    hands.key(K.Key_Down)
    hands.key(K.Key_Down)
    assert hands.field.text() == ""
    hands.bot.keyClicks(hands.field, "nonsense here")
    hands.key(K.Key_Return)
    assert hands.field.text() == "nonsense here" and hands.field.selectedText() == "nonsense here"
    hands.bot.keyClicks(hands.field, "r")
    assert hands.field.text() == "r"


# -- the menu ----------------------------------------------------------------------------------------------------------


def opened_menu(hands):
    menu = hands.window.strip.menu.menu()
    menu.aboutToShow.emit()
    return menu


def test_every_command_stands_in_the_menu_once_in_groups_of_nine(hands):
    from redline_bore.ui.commands.menu import GROUPS, MOST

    names = [name for _title, group in GROUPS for name in group]
    assert sorted(names) == sorted(c.name for c in commands())
    assert all(len(group) <= MOST for _title, group in GROUPS) and len(GROUPS) <= MOST
    letters = [title[title.index("&") + 1].lower() for title, _group in GROUPS]
    assert len(set(letters)) == len(letters)


@pytest.mark.parametrize(
    ("step", "here", "not_here"), [("call", "menu beside", "menu defect"), ("gauge", "menu defect", "menu beside")]
)
def test_what_this_page_does_stands_first_and_what_it_does_not_says_why(hands, step, here, not_here):
    hands.go(step)
    menu = opened_menu(hands)
    first = [a.objectName() for a in menu.actions() if a.objectName()]
    assert here in first and not_here not in first and len(first) <= 9
    deeper = {a.objectName(): a for sub in menu.actions() if sub.menu() for a in sub.menu().actions()}
    assert deeper[here].isEnabled() and not deeper[not_here].isEnabled()
    assert "step" in deeper[not_here].text() and "\t" in deeper[not_here].text()
    for each in commands():
        assert not each.keys or deeper[f"menu {each.name}"].text().endswith(f"\t{each.keys[0]}")


def test_the_menu_does_what_the_key_does(hands):
    hands.go("gauge")
    menu = opened_menu(hands)
    deeper = {a.objectName(): a for sub in menu.actions() if sub.menu() for a in sub.menu().actions()}
    was = hands.session.bench.units
    deeper["menu units"].trigger()
    assert hands.session.bench.units is not was
    deeper["menu units"].trigger()


# -- taken hold of where it stands -------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("number", "step", "page", "label", "title"),
    [("2041", "call", "ladder", "clearance", "clearance window"), ("2036", "hone", "set_up", "stones", "stones in the pack"),
     ("2036", "hone", "set_up", "turns and strokes", "How the hone goes"), ("2036", "call", "pistons", "piston 1", "piston meant"),
     ("2036", "finish", "all", "Rk", "finish window"), ("2041", "call", "ladder", "1 wall", "wall as")],
)  # fmt: skip
def test_a_figure_that_is_stated_is_changed_where_it_stands(bench_on, number, step, page, label, title):
    hands = bench_on(number)
    hands.go(step)
    hands.session.set_page(page)
    hands.settle()
    rows = hands.window.card.rows
    at = next(i for i, line in enumerate(rows._lines) if line.label.startswith(label))
    assert rows._lines[at].by and "can be changed" in rows.accessibleDescription()
    y = int((at + 0.5) * rows.theme.px(29))
    QTest.mouseMove(rows, QPoint(40, y))
    QTest.mouseClick(rows, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(40, y))
    assert hands.window.over.has_tag and title.lower() in hands.window.over.tag.title.text().lower()


def test_what_was_measured_is_not_taken_hold_of(hands):
    hands.go("gauge")
    rows = hands.window.card.rows
    at = next(i for i, line in enumerate(rows._lines) if line.label == "largest read")
    QTest.mouseClick(
        rows, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(40, int((at + 0.5) * rows.theme.px(29)))
    )
    assert not hands.window.over.has_tag


def test_the_blocks_temperature_is_changed_from_the_strip(hands):
    strip = hands.window.strip
    QTest.mouseClick(strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(strip.width() - 30, 30))
    assert hands.window.over.has_tag and "temperature" in hands.window.over.tag.title.text()


def test_every_figure_that_says_it_can_be_changed_has_a_line_that_states_it():
    import re
    from pathlib import Path

    from redline_bore.job.kinds.kind import KINDS

    named = set()
    for file in (Path(__file__).parents[2] / "redline_bore" / "job" / "words").glob("*.py"):
        named |= set(re.findall(r'by="(\w+)"', file.read_text())) | set(
            re.findall(r'Mark\.\w+, "(\w+_\w+)"', file.read_text())
        )
    assert len(named) > 12 and all(name in KINDS and KINDS[name].phrases for name in named)
