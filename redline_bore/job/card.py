"""Advice: one sentence, the figures behind it, what would change it, the working. Widgets only show it."""

from __future__ import annotations

from enum import StrEnum
from typing import NamedTuple

from redline_bore.core.frozen import frozen


class Mark(StrEnum):
    """How a figure stands. Never by colour alone: the interface adds a tick, a triangle or the word."""

    PLAIN = ""
    SOUND = "sound"
    LIKELY = "likely"  # so likely that being wrong costs less; never proof
    LOOK = "look here"
    STOP = "stop"


class Said(NamedTuple):
    """A finding in a sentence, and its mark."""

    sentence: str
    mark: Mark


class Note(str):
    """A line of the card that would not change its sentence: it stands apart from those that would."""

    __slots__ = ()


@frozen
class FigureLine:
    """A figure behind a sentence, as it is told. ``by``: the kind of entry that states it, where it can be changed by hand."""

    label: str
    value: str
    mark: Mark = Mark.PLAIN
    by: str = ""


@frozen
class WorkLine:
    """A line of pencil arithmetic, with the source of the rule or figure it uses."""

    text: str
    source: str = ""


@frozen
class Advice:
    """What to do now. ``changes``: lines that would change the sentence, and notes. ``button`` is what Enter does; ``care`` a short line of care
    where the work can hurt.

    leads_on: the button books nothing, it goes on to another cylinder or step. unsure: it books what is not sure, so it is not lit.
    """

    scope: str
    sentence: str
    figures: tuple[FigureLine, ...] = ()
    changes: tuple[str, ...] = ()
    working: tuple[WorkLine, ...] = ()
    button: str = ""
    care: str = ""
    mark: Mark = Mark.PLAIN
    leads_on: bool = False
    unsure: bool = False

    @property
    def would_change(self) -> tuple[str, ...]:
        """The lines that would change the sentence."""
        return tuple(line for line in self.changes if not isinstance(line, Note))

    @property
    def notes(self) -> tuple[str, ...]:
        """The others."""
        return tuple(line for line in self.changes if isinstance(line, Note))

    @property
    def spoken(self) -> str:
        """The sentence as it is told: where it is a stop, that word comes first."""
        return f"Stop. {self.sentence}" if self.mark is Mark.STOP else self.sentence


def no_advice(cylinder: int, error: Exception) -> Advice:
    """Where the advice could not be worked out: said so, and nothing else in its place."""
    return Advice(
        f"Call · cylinder {cylinder}",
        "No advice could be worked out here. What is booked is kept.",
        changes=(
            f"{type(error).__name__}: {error}",
            "Strike the last entry, or go by the ledger, and tell whoever looks after the program.",
        ),
        mark=Mark.STOP,
    )
