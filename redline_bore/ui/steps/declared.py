"""The steps as they are declared: how each is made, and what it hears wherever the window is.

A view is imported when it is first shown: the first picture must not wait for the others.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING

from redline_bore.core.frozen import frozen
from redline_bore.ui.background import Runner
from redline_bore.ui.session import Session
from redline_bore.ui.theme.theme import Theme

if TYPE_CHECKING:
    from redline_bore.ui.steps.base import StepView


@frozen(often=True)
class StepParts:
    """What a step is made from. ``propose``: puts words into the field; ``export``: asks where to and writes one export."""

    session: Session
    theme: Theme
    runner: Runner
    propose: Callable[[str], None]
    export: Callable[[str], None]


@frozen(often=True)
class DeclaredStep:
    """hears: the messages that are this step's own wherever the window is; asked when one comes, for the first picture needs none. made_to_hear: the step is made for it where it is not yet."""

    name: str
    make: Callable[[StepParts], StepView]
    hears: Callable[[], tuple[type, ...]] = tuple
    made_to_hear: bool = False
    titles: Callable[[], Mapping[str, str]] = dict  # its pages, asked for when something is looked for


def _book_in(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.book_in import BookInStep

    return BookInStep(parts)


def _gauge(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.gauge import GaugeStep

    return GaugeStep(parts)


def _call(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.call import CallStep

    return CallStep(parts)


def _bore(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.bore import BoreStep

    return BoreStep(parts)


def _sleeve(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.sleeve import SleeveStep

    return SleeveStep(parts)


def _hone(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.hone import HoneStep

    return HoneStep(parts)


def _finish(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.finish import FinishStep

    return FinishStep(parts)


def _sign_off(parts: StepParts) -> StepView:
    from redline_bore.ui.steps.sign_off import SignOffStep

    return SignOffStep(parts)


def _gauge_pages() -> Mapping[str, str]:
    from redline_bore.ui.steps.gauge import GaugeStep

    return GaugeStep.titles


def _call_pages() -> Mapping[str, str]:
    from redline_bore.ui.steps.call import CallStep

    return CallStep.titles


def _bore_pages() -> Mapping[str, str]:
    from redline_bore.ui.steps.bore import BoreStep

    return BoreStep.titles


def _sleeve_pages() -> Mapping[str, str]:
    from redline_bore.ui.steps.sleeve import SleeveStep

    return SleeveStep.titles


def _hone_pages() -> Mapping[str, str]:
    from redline_bore.ui.steps.hone import HoneStep

    return HoneStep.titles


def _finish_pages() -> Mapping[str, str]:
    from redline_bore.ui.steps.finish import FinishStep

    return FinishStep.titles


def _loads() -> tuple[type, ...]:
    from redline_bore.instruments.line_protocol import HoneLoad
    from redline_bore.ui.instrument_link import GarbledLoad

    return HoneLoad, GarbledLoad


def _traces() -> tuple[type, ...]:
    from redline_bore.instruments.line_protocol import TraceReading

    return (TraceReading,)


STEPS = {
    step.name: step
    for step in (
        DeclaredStep("book_in", _book_in),
        DeclaredStep("gauge", _gauge, titles=_gauge_pages),
        DeclaredStep("call", _call, titles=_call_pages),
        DeclaredStep("bore", _bore, titles=_bore_pages),
        DeclaredStep("sleeve", _sleeve, titles=_sleeve_pages),
        DeclaredStep("hone", _hone, _loads, titles=_hone_pages),
        DeclaredStep("finish", _finish, _traces, made_to_hear=True, titles=_finish_pages),
        DeclaredStep("sign_off", _sign_off),
    )
}
