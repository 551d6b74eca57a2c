"""Words that mean the same in every step and are no entry of the step at hand: who books, ports, any entry struck, photos."""

from __future__ import annotations

from collections.abc import Callable

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.store.exports import typed_path
from redline_bore.ui.commands.files import attach_photo
from redline_bore.ui.frame.window_parts import WindowParts
from redline_bore.ui.instruments import port_with_pattern


@frozen(often=True)
class Word:
    """A line that begins with ``lead``, as it is typed, and what it does; ``act`` returns None where it is not meant after all."""

    lead: str
    example: str
    help: str
    act: Callable[[WindowParts, str], str | None]


def word_typed(window: WindowParts, text: str) -> str:
    """Do what a line means in every step; returns a remark, or nothing when it is none of these. Raises BenchError."""
    lead = text.split(" ", 1)[0].lower() if text.strip() else ""
    for word in WORDS:
        if word.lead == lead and (remark := word.act(window, text.strip())) is not None:
            return remark
    return ""


def _who(window: WindowParts, text: str) -> str | None:
    words = text.split()
    if len(words) != 2:
        return None
    window.session.set_person(words[1][:6])
    window.settings.setValue("person", window.session.person)
    return f"What is booked from now on is booked by {window.session.person}."


def _baud(word: str) -> int:
    from redline_bore.instruments.port import BAUDS

    if not word.isdecimal() or len(word) > 6 or int(word) not in BAUDS:
        raise InputError(f"A port runs at {', '.join(map(str, BAUDS))} baud")
    return int(word)


def _port(window: WindowParts, text: str) -> str | None:
    words, baud = text.split(), 0
    if "baud" in words[2:]:  # port /dev/ttyUSB0 baud 4800 two-point mm {value}
        at = words.index("baud")
        baud = _baud(words[at + 1] if at + 1 < len(words) else "")
        words = words[:at] + words[at + 2 :]
    if len(words) == 2:
        window.instruments.gauge.connect_port(words[1], baud=baud)
        return f"Instrument at {words[1]}. Space takes a reading."
    if len(words) < 4:
        return None
    return port_with_pattern(
        window.instruments, window.settings, words[1], words[2].lower(), words[3].lower(), " ".join(words[4:]), baud
    )


def _strike(window: WindowParts, text: str) -> str | None:
    words = text.split()
    if len(words) < 2 or not words[1].isdecimal() or len(words[1]) > 9:
        return None
    if len(words) > 2 and words[2].lower() in ("to", "-", "and"):
        raise InputError(f"One entry at a time: strike {words[1]}, then the next, each with its reason")
    seq, reason, session = int(words[1]), " ".join(words[2:]), window.session
    session.took(session.opened.strike(seq, reason, f"strike {seq} {reason}".strip()))
    return f"Entry {seq} is struck out; it stays in the ledger."


def _restore(window: WindowParts, text: str) -> str | None:
    words = text.split()
    if len(words) < 2 or not words[1].isdecimal() or len(words[1]) > 9:
        return None
    session = window.session
    session.took(session.opened.restore(int(words[1]), f"restore {words[1]}"))
    return f"Entry {words[1]} counts again."


def _photo(window: WindowParts, text: str) -> str | None:
    path = text[len("photo") :].strip()
    return attach_photo(window, typed_path(path)) if path else None


WORDS = (
    Word("strike", "strike 123 wrong cylinder", "any entry of the ledger, in any step", _strike),
    Word("restore", "restore 123", "a struck entry counts again", _restore),
    Word("who", "who RM", "the initials on what is booked from now on", _who),
    Word("port", "port /dev/ttyUSB0 two-point in {skip} {value}", "a real gauge by its own line pattern", _port),
    Word("photo", "photo scratch.jpg", "a picture for the defect that is lit", _photo),
)
