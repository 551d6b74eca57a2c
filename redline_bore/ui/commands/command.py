"""A command: its words, its keys, and the function that does it."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.ui.frame.window_parts import WindowParts
from redline_bore.ui.verbs import Verb, deed_of

Deed = Callable[[WindowParts], str]


class Group(StrEnum):
    """Where a command stands in the menu and the help."""

    BENCH = "At the bench"
    LOOKING = "Looking"
    FILES = "Jobs and files"
    INSTRUMENTS = "Instruments"


def _always(_window: WindowParts) -> str:
    return ""


def needs_job(window: WindowParts) -> str:
    """For what is done with an open job."""
    return "" if window.session.state is not None else "no job is open"


@frozen(often=True)
class Command:
    """``act`` returns a remark for the gauge line, or nothing; it raises BenchError where it cannot be done now. why_not: the reason why it
    cannot be done now, as it stands beside its name; empty where it can."""

    name: str
    words: str
    keys: tuple[str, ...]
    group: Group
    place: int
    act: Deed
    why_not: Deed = _always


_DECLARED: dict[str, Command] = {}
_KEYS: set[str] = set()


def command(group: Group, place: int, words: str, *keys: str, why_not: Deed = _always) -> Callable[[Deed], Deed]:
    """Declare the function below as a command. place: where it stands in its group; why_not: the reason it cannot be done now.

    Raises TypeError for a second one on a key.
    """

    def declared(act: Deed) -> Deed:
        _add(Command(act.__name__, words, keys, group, place, act, why_not))
        return act

    return declared


def verb_command(verb: Verb, name: str, place: int, words: str, *keys: str) -> None:
    """Declare a command that the step or the page on the screen does."""

    def act(window: WindowParts) -> str:
        view = window.step
        if view is None or window.session.state is None:
            return ""
        deed = deed_of(verb, view.name, view.deeds())
        return "" if deed is None else deed()

    def why_not(window: WindowParts) -> str:
        view = window.step
        if view is None or window.session.state is None:
            return "no job is open"
        try:
            deed = deed_of(verb, view.name, view.deeds())
        except InputError as error:
            return f"{str(error)[:1].lower()}{str(error)[1:]}"
        return "" if deed is not None else "this page has nothing of the kind"

    _add(Command(name, words, keys, Group.BENCH, place, act, why_not))


def _add(new: Command) -> None:
    twice = _KEYS.intersection(new.keys)
    if twice or new.name in _DECLARED:
        raise TypeError(f"{new.name} is declared twice, or its key {sorted(twice)} is taken")
    _DECLARED[new.name] = new
    _KEYS.update(new.keys)


def commands() -> tuple[Command, ...]:
    """Every command, by group and place."""
    return tuple(sorted(_DECLARED.values(), key=lambda c: (list(Group).index(c.group), c.place)))
