"""The command line: the window, and the same files without one.

redline-bore                             the window on the usual logbook
redline-bore new / book / import / call / sheet / export / jobs
redline-bore backup / restore / verify / rebuild / merge / move / prepare
"""

from __future__ import annotations

import argparse
import io
import os
import sys
from collections.abc import Sequence
from contextlib import redirect_stderr, redirect_stdout
from importlib import import_module
from pathlib import Path
from typing import TextIO
from unicodedata import category

from redline_bore import __version__
from redline_bore.core.errors import BenchError, FaultyInput
from redline_bore.store.places import default_logbook, is_server

EXIT_REFUSED = 2
MODULES = {  # of every command, where it is declared
    "jobs": "listing",
    **dict.fromkeys(("new", "book", "import", "aside", "demo"), "jobs"),
    **dict.fromkeys(
        (
            "call",
            "sheet",
            "export",
            "finish",
            "trace",
            "stock",
            "opinion",
            "quote",
        ),
        "papers",
    ),
    **dict.fromkeys(("hand-in", "merge", "verify", "rebuild", "backup", "restore", "move", "prepare"), "keeping"),
}


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line; returns the exit code (0 done, 2 refused with the reason on standard error)."""
    words = sys.argv[1:] if arguments is None else arguments
    given = _parser(words).parse_args(words)
    given.logbook = _where(given.logbook)
    try:
        with redirect_stdout(Plain(sys.stdout)), redirect_stderr(Plain(sys.stderr)):
            return _run(given)
    except BrokenPipeError:  # whoever was reading has seen enough: nothing is wrong
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 0


def _where(said: str | None) -> Path | str:
    """The logbook that is asked for: a file, or the address of a server."""
    if said and is_server(said):
        return said
    return Path(said) if said else default_logbook()


class Plain(io.TextIOBase):
    """A stream that lets no control character through but the end of a line and a tab: nothing in a ledger works the terminal."""

    def __init__(self, stream: TextIO) -> None:
        super().__init__()
        self._stream = stream

    def write(self, text: str) -> int:
        """Write ``text`` without what would be obeyed."""
        self._stream.write("".join(c if c in "\n\t" or category(c)[0] != "C" else "\ufffd" for c in text))
        return len(text)

    def flush(self) -> None:
        """Pass it on."""
        self._stream.flush()

    def fileno(self) -> int:
        """Of the stream behind it."""
        return self._stream.fileno()


def _run(given: argparse.Namespace) -> int:
    try:
        return int(given.run(given))
    except FaultyInput as error:
        print("Nothing was taken in:", file=sys.stderr)
        for fault in error.faults:
            print(f"  {fault.path}: {fault.reason}", file=sys.stderr)
    except BenchError as error:
        print(f"redline-bore: {error}", file=sys.stderr)
    return EXIT_REFUSED


def _wanted(arguments: Sequence[str]) -> Sequence[str]:
    """The modules whose commands may be meant: only the one that has the command named, else all of them. Most load the whole trade."""
    named = [a for a in arguments if a in MODULES]
    if named:
        return list(dict.fromkeys(MODULES[name] for name in named))  # a file may be called as a command is
    return [] if "--version" in arguments else list(dict.fromkeys(MODULES.values()))


def _parser(arguments: Sequence[str]) -> argparse.ArgumentParser:
    common = argparse.ArgumentParser(add_help=False)
    common.add_argument(
        "--logbook",
        metavar="PATH",
        default=None,
        help="the logbook file (else the one in the XDG data folder), or a server's: postgresql://shop-server/redline",
    )
    parser = argparse.ArgumentParser(
        prog="redline-bore", description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter, parents=[common]
    )
    parser.add_argument("--version", action="version", version=f"Redline Bore {__version__}")
    parser.add_argument("--job", metavar="NUMBER", help="open this job")
    parser.add_argument("--guide", action="store_true", help="be led through a first job, with simulated instruments")
    parser.set_defaults(run=_window)
    commands = parser.add_subparsers(title="without a window")
    keep = argparse.ArgumentParser(add_help=False)
    keep.add_argument("--logbook", metavar="PATH", default=argparse.SUPPRESS)
    for module in _wanted(arguments):
        import_module(f"redline_bore.cli.{module}").add_commands(commands, keep)
    return parser


def _window(given: argparse.Namespace) -> int:
    import gc

    gc.disable()  # until the first picture stands: what is loaded stays, and walking it takes a twelfth of the start
    from redline_bore.app import run

    return run(given.logbook, given.job, given.guide)
