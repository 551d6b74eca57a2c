"""How to begin where the logbook is empty: a job of one's own, the sample jobs in a logbook of their own, or a file."""

from __future__ import annotations

import sys
from functools import partial
from pathlib import Path

from redline_bore.store.places import data_folder
from redline_bore.ui.commands.command import Group, command
from redline_bore.ui.frame.drawer import Drawer
from redline_bore.ui.frame.window_parts import WindowParts

SAMPLES, GUIDED = "samples.sqlite", "guided.sqlite"


@command(Group.FILES, 12, "Begin: a job of your own, the sample jobs, a file")
def begin(window: WindowParts) -> str:
    """The ways there are into an empty logbook; nothing is asked that is not needed yet."""
    drawers = [
        Drawer("guide", "The guided first job", "one thing at a time, with a simulated gauge, in a logbook of its own", "another window", "", "learn tutorial practice help first lesson", guided),
        Drawer("own", "A job of your own", "bore, stroke and cylinders begin it; the rest is asked when it matters", "Book in", "", "new start book", lambda: None),
        Drawer("look", "The sample jobs, in a logbook of their own", "five jobs, just booked in to signed off, kept apart from yours", "another window", "", "demo practice example try", partial(_samples, window)),
        Drawer("file", "A job from a file", "one that was written out elsewhere", "Jobs and files", "", "import open json", partial(window.do, "take_in")),
        Drawer("who", "Who is working", "whose initials stand on what is booked", "the board", "", "initials name sign", partial(window.do, "who")),
    ]  # fmt: skip
    window.over.look_among("Begin", drawers, sizes_go_on=True)
    return ""


def _samples(window: WindowParts) -> None:
    """Write the sample jobs behind the window, then open them in another."""
    path = data_folder() / SAMPLES

    def work(_token: object) -> Path:
        from redline_bore.demo.jobs import take_demo
        from redline_bore.store.logbook import Logbook

        path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        logbook = Logbook(path)
        try:
            take_demo(logbook, logbook.figures())
        finally:
            logbook.close()
        return path

    window.line.tell("The sample jobs are being written; their window opens in a moment.", False)
    window.behind("samples", work, lambda made: open_window(made))


def guided() -> None:
    """Be led through a first job, in a logbook of its own."""
    path = data_folder() / GUIDED
    path.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    open_window(path, "--guide")


def open_window(path: Path, *more: str) -> None:
    """Another window of this program, on another logbook."""
    import subprocess

    subprocess.Popen([sys.executable, "-m", "redline_bore", "--logbook", str(path), *more], start_new_session=True)
