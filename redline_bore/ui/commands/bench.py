"""What is done at the bench: booking, striking, the plate, and what the step at hand does."""

from __future__ import annotations

from redline_bore.core.errors import InputError
from redline_bore.job.kinds.plate import PlateChanged
from redline_bore.ui import verbs
from redline_bore.ui.commands.command import Group, command, needs_job, verb_command
from redline_bore.ui.frame.window_parts import WindowParts

BENCH = Group.BENCH


@command(BENCH, 1, "Book, or what the button says", "Return", "Enter")
def enter(window: WindowParts) -> str:
    """Book what is typed."""
    window.enter()
    return ""


@command(BENCH, 2, "Take a reading (field empty, or after a blank)", "Space", why_not=needs_job)
def read(window: WindowParts) -> str:
    """Ask the instrument of the step."""
    view = window.step
    if view is None or not view.reads:
        raise InputError("A reading is taken in the gauge step, at the hone behind the strokes, or of the finish")
    window.instruments.asked(view.asks).ask()
    return ""


@command(BENCH, 3, "Press the simulated gauge's own button", "G", why_not=needs_job)
def press(window: WindowParts) -> str:
    """Press the button of the stand-in that is connected."""
    view = window.step
    window.instruments.asked("gauge" if view is None else view.presses).tell_stand_in("press")
    return ""


@command(BENCH, 4, "Strike out the last entry", "Backspace", "Ctrl+Z", why_not=needs_job)
def strike(window: WindowParts) -> str:
    """Strike the newest entry that counts."""
    record = window.session.undo()
    if record is None:
        raise InputError("There is nothing to strike out")
    kind = record.entry.kind.replace("_", " ")
    return f"Entry {record.seq}, {kind}, is struck out. Ctrl+Y brings it back."


@command(BENCH, 5, "Let a struck entry count again", "Ctrl+Y", why_not=needs_job)
def restore(window: WindowParts) -> str:
    """Let the entry struck last count again."""
    seq = window.session.redo()
    if seq is None:
        raise InputError("There is no struck entry to bring back")
    return f"Entry {seq} counts again."


@command(BENCH, 6, "Plate on or off", "P", why_not=needs_job)
def plate(window: WindowParts) -> str:
    """The torque plate goes on or comes off."""
    window.session.book(PlateChanged(on=not window.session.job.clamped.plate_on))
    window.session.to_next_place()
    return ""


@command(BENCH, 7, "Millimetres or inches", "U")
def units(window: WindowParts) -> str:
    """Look at everything in the other units."""
    window.session.set_units(window.session.bench.units.other)
    return ""


@command(BENCH, 8, "Letters go to the field: a word, a piston", "M")
def field(window: WindowParts) -> str:
    """Whatever is typed next goes into the field."""
    window.line.field.words = True
    window.line.field.setFocus()
    return ""


@command(BENCH, 9, "Gauge: to the next place not read", "Home", why_not=needs_job)
def next_place(window: WindowParts) -> str:
    """Put the gauge where it has not read."""
    if window.session.state is not None:
        window.session.to_next_place()
    return ""


verb_command(verbs.PLAN, "quick_plan", 10, "Gauge: quick, full or race plan", "L")


@command(BENCH, 11, "The next page of this step", "V", why_not=needs_job)
def next_page(window: WindowParts) -> str:
    """Turn the page."""
    return _turn(window, verbs.NEXT_PAGE)


@command(BENCH, 12, "The page before", "Shift+V", why_not=needs_job)
def page_before(window: WindowParts) -> str:
    """Turn the page back."""
    return _turn(window, verbs.PAGE_BEFORE)


def _turn(window: WindowParts, verb: verbs.Verb) -> str:
    view = window.step
    deed = None if view is None or window.session.state is None else view.deeds().get(verb)
    if deed is None:
        raise InputError("This step has no pages")
    return deed()


verb_command(verbs.DEFECT, "defect", 13, "Gauge: mark a defect where the maps are read", "D")
verb_command(verbs.SWEPT, "swept", 14, "Gauge: the map by sweeps, or by two points", "T")
verb_command(verbs.STAMP, "keep_study", 15, "Bore and Sleeve: stamp the next check; gauge study: keep its U", "K")
verb_command(verbs.SLEEVE, "sleeve", 16, "Call: sleeve this cylinder, or not", "S")
verb_command(verbs.BESIDE, "beside", 17, "Call: keep this call to compare with", "B")
verb_command(verbs.AXIS, "axis", 18, "Call: bored about which axis", "A")
verb_command(verbs.WEAR, "wear_share", 19, "Call: wear on the worse side", "Y")
verb_command(verbs.ALLOWANCE, "hone_allowance", 20, "Call: what is left for the hone", "H")
verb_command(verbs.ODD, "odd_cylinder", 21, "Call: what one odd cylinder does", "O")
verb_command(verbs.BUYING, "buying", 21, "Call: when pistons are bought", "X")
verb_command(verbs.NEXT_STEP, "next_step", 22, "Hone: on to its next step", "N")
verb_command(verbs.STROKE, "stroke", 23, "Hone set-up: let the stone move, or stop it", "J")
verb_command(
    verbs.PRACTICE,
    "practice",
    24,
    "Whose clearance leads; honing practice; Ra or the family; a plate always or not",
    "C",
)
