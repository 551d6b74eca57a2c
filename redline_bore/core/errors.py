"""The one small family of errors, split by blame. Every message is a sentence for the person at the bench."""

from __future__ import annotations

from redline_bore.core.frozen import frozen


class BenchError(Exception):
    """Base of all errors this program raises on purpose. ``str(error)`` is a sentence to be shown as it is."""


class InputError(BenchError):
    """What was typed or handed in cannot be used; the message says what is wrong and what may be meant."""


class FormError(InputError):
    """What was typed is not in the form that is wanted; whoever knows an example of that form says it behind the message."""


class FitError(BenchError):
    """The readings do not carry the figure asked for; the message says what to measure."""


class EnvironmentTrouble(BenchError):
    """The disk, the port or the logbook would not do what was asked."""


class LogbookGone(EnvironmentTrouble):
    """The logbook's file is not there any more, or another stands in its place: nothing may be booked into it."""


class ServerAway(EnvironmentTrouble):
    """The server that keeps the logbook cannot be reached, or the line to it broke."""


class LogbookBusy(EnvironmentTrouble):
    """Another program has held the logbook for too long; nothing was booked, and it can be tried again."""


@frozen
class Fault:
    """One thing wrong with an input: ``path`` names the field (or line and column), ``reason`` is a sentence."""

    path: str
    reason: str

    def __str__(self) -> str:
        return f"{self.path}: {self.reason}"


class FaultyInput(InputError):
    """Several faults of one input, all told at once; ``faults`` is never empty."""

    def __init__(self, faults: list[Fault] | tuple[Fault, ...]) -> None:
        self.faults = tuple(faults)
        super().__init__("; ".join(str(fault) for fault in self.faults))


class DoubtfulInput(InputError):
    """Input that can be booked, and that something speaks against: it is asked once. ``doubt``: the question, as it stays in the ledger."""

    def __init__(self, doubt: str) -> None:
        super().__init__(f"{doubt[:1].upper()}{doubt[1:]}{'' if doubt.endswith('?') else '?'} Enter again books it")
        self.doubt = doubt
