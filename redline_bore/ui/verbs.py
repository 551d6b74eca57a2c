"""What a key can ask of the step or page that is on. Steps and pages declare which of these they do; nothing is found by its name."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen


@frozen(often=True)
class Verb:
    """Something a step or a page may do. homes: the steps that do it; empty: any may, and where none does the key is silent."""

    name: str
    homes: tuple[str, ...] = ()


Deeds = Mapping[Verb, Callable[[], str]]  # what a step or a page does; each returns a remark

STAMP = Verb("stamp the next check, or keep the study's U", ("bore", "sleeve", "gauge"))
NEXT_STEP = Verb("on to the next step of the honing")
PRACTICE = Verb("the next practice")
NEXT_PAGE = Verb("the next page")
PAGE_BEFORE = Verb("the page before")
PLAN = Verb("another level plan", ("gauge",))
DEFECT = Verb("mark a defect", ("gauge",))
SWEPT = Verb("the map by sweeps", ("gauge",))
SLEEVE = Verb("sleeve this cylinder", ("call",))
BESIDE = Verb("keep this call beside", ("call",))
AXIS = Verb("bored about which axis", ("call",))
WEAR = Verb("wear on the worse side", ("call",))
ALLOWANCE = Verb("what is left for the hone", ("call",))
ODD = Verb("what one odd cylinder does", ("call",))
BUYING = Verb("when pistons are bought", ("call",))
STROKE = Verb("let the stone move", ("hone",))
BREAK_OFF = Verb("break off what is being worked out")


def deed_of(verb: Verb, step: str, deeds: Deeds) -> Callable[[], str] | None:
    """What is done; None where nothing is and nothing need be said. Raises InputError where it belongs somewhere else."""
    found = deeds.get(verb)
    if found is not None or not verb.homes:
        return found
    if step in verb.homes:
        raise InputError("That belongs to another page: V goes through them")
    raise InputError(f"That is done in the {' or '.join(verb.homes)} step")
