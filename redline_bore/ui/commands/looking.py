"""What is looked at: working, ledger, keys, other steps, night and size."""

from __future__ import annotations

from redline_bore.core.written import shown, with_comma, write_with_comma
from redline_bore.ui import verbs
from redline_bore.ui.commands.command import Group, command, commands, needs_job
from redline_bore.ui.commands.words import WORDS
from redline_bore.ui.frame.window_parts import WindowParts

LOOKING = Group.LOOKING


@command(LOOKING, 1, "Show working", "W", "F2", why_not=needs_job)
def working(window: WindowParts) -> str:
    """The arithmetic behind the card."""
    view = window.step
    if view is not None and window.session.state is not None:
        from redline_bore.ui.frame.panel import working_html  # not before somebody asks

        window.over.panel.lay("working", "Working", working_html(view.advice(), window.theme))
    return ""


@command(LOOKING, 2, "The ledger, struck entries too", "Ctrl+L", why_not=needs_job)
def ledger(window: WindowParts) -> str:
    """The ledger as it stands, newest first, what was struck struck through."""
    session, theme = window.session, window.theme
    from redline_bore.ui.frame.panel import ledger_html

    html = ledger_html(session.records, session.job.struck, session.show, theme.palette.graphite)
    window.over.panel.lay("ledger", f"Ledger of job {session.job.number}", html)
    return ""


@command(LOOKING, 11, "This page: what is seen, how it is read, what to do next", "F1")
def this_page(window: WindowParts) -> str:
    """Help with the page that is on, in one screen."""
    from redline_bore.ui.commands.help import page_html, picture_html

    bench, theme, step = window.session.bench, window.theme, window.step
    seen = "" if step is None else picture_html(step.shown_page, step.width() * 2 // 5, theme.palette.paper)
    window.over.panel.lay("page", *page_html(bench.step, bench.page, theme.px(15), theme.palette.graphite, seen))
    return ""


@command(LOOKING, 12, "The figures behind this page, as a table", "Shift+F1", why_not=needs_job)
def table(window: WindowParts) -> str:
    """What the pictures are drawn from, in rows that are read aloud and walked with the arrows."""
    from redline_bore.job.words.tables import table_of

    s = window.session
    window.over.panel.lay_table(table_of(s.job, s.bench.step, s.bench.cylinder, s.rung_mm, s.show))
    return ""


@command(LOOKING, 3, "All keys", "?")
def keys(window: WindowParts) -> str:
    """Every key, and what may be typed, with examples in this job's units and sizes."""
    from redline_bore.ui.commands.help import help_html  # not before somebody asks

    theme, session = window.theme, window.session
    html = help_html(commands(), WORDS, session.state, session.where, theme.px(13), theme.palette.graphite)
    window.over.panel.lay("keys", "All keys", html)
    return ""


@command(LOOKING, 4, "The step before", "PgUp")
def previous(window: WindowParts) -> str:
    """Walk back."""
    window.walk(-1)
    return ""


@command(LOOKING, 5, "The step after", "PgDown")
def following(window: WindowParts) -> str:
    """Walk on."""
    window.walk(1)
    return ""


@command(LOOKING, 6, "Night shift or day", "Ctrl+D")
def night(window: WindowParts) -> str:
    """The dark theme, or the light one."""
    window.theme.set_night(not window.theme.night)
    window.settings.setValue("night", window.theme.night)
    return ""


@command(LOOKING, 10, "High contrast, or as usual", "Ctrl+Shift+D")
def clear(window: WindowParts) -> str:
    """Black on white, or white on black, with no soft greys."""
    window.theme.set_clear(not window.theme.clear)
    window.settings.setValue("clear", window.theme.clear)
    return "High contrast." if window.theme.clear else "As usual."


@command(LOOKING, 11, "Touch size: large targets, a pad to type on", "Ctrl+Shift+T")
def touch(window: WindowParts) -> str:
    """For oily fingers on the glass; or back again."""
    window.theme.set_touch(not window.theme.touch)
    window.settings.setValue("touch", window.theme.touch)
    return "Touch size: the pad types, Book books." if window.theme.touch else "As usual."


@command(LOOKING, 12, "Figures with a comma, or with a point")
def comma(window: WindowParts) -> str:
    """As the shop writes them; the ledger and files for programs keep the point."""
    write_with_comma(not with_comma())
    window.settings.setValue("comma", with_comma())
    window.theme.changed.emit()
    return shown("Figures are written like 105.214.")


@command(LOOKING, 13, "Paper: A4, or Letter")
def paper(window: WindowParts) -> str:
    """What the printer of this shop holds."""
    window.session.paper = "A4" if window.session.paper == "Letter" else "Letter"
    window.settings.setValue("paper", window.session.paper)
    window.theme.changed.emit()
    return f"Sheets are laid out for {window.session.paper}."


@command(LOOKING, 7, "Everything larger", "Ctrl++", "Ctrl+=")
def larger(window: WindowParts) -> str:
    """A step larger."""
    return _scale(window, 1)


@command(LOOKING, 8, "Everything smaller", "Ctrl+-")
def smaller(window: WindowParts) -> str:
    """A step smaller."""
    return _scale(window, -1)


def _scale(window: WindowParts, by: int) -> str:
    window.theme.set_scale(window.theme.stepped(by))
    window.settings.setValue("scale", window.theme.scale)
    return f"Shown at {window.theme.scale:.0%}."


@command(LOOKING, 9, "Close a panel, empty the field", "Esc")
def leave(window: WindowParts) -> str:
    """Esc: the panel goes first, then what is typed, then the list or the empty card."""
    session, field = window.session, window.line.field
    if window.over.left():
        return ""
    if window.over.panel.isVisible():
        window.over.panel.put_away()
    elif field.text():
        field.clear()
        field.words = False
        window.line.clear_remark()
    elif _broken_off(window):
        return "It is broken off."
    elif session.bench.gauge.pulled is not None:
        session.set_pulled(None)
        return "The tightening is broken off; nothing was booked."
    elif session.state is not None:
        session.go(session.bench.step)
    return ""


def _broken_off(window: WindowParts) -> bool:
    """Whether the step was working something out, and has broken it off."""
    deed = None if window.step is None else window.step.deeds().get(verbs.BREAK_OFF)
    return deed is not None and bool(deed())
