"""The entries of the torque plate: on or off, how it and the head are held down, how it was tightened."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, Literal

from redline_bore.core.clamping import NM_PER_LBF_FT, ClampSetUp
from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen, replace
from redline_bore.core.lengths import Units
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.gauge import plate_words
from redline_bore.job.kinds.kind import ANY_STEP, Into, declare
from redline_bore.job.kinds.measures import behind, between, keyed, number, plain, yes
from redline_bore.job.kinds.phrase import ANYWHERE, At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.clamped import Clamped, Tightened

PAGE = "gauge/plate"
Part = Literal["plate", "head"]
LUBRICANTS = {
    "dry": ("dry", "k_dry"),
    "engine oil": ("engine oil", "k_engine_oil"),
    "oil": ("engine oil", "k_engine_oil"),
    "moly paste": ("moly paste", "k_moly_paste"),
    "moly": ("moly paste", "k_moly_paste"),
    "low friction": ("low-friction lubricant", "k_low_friction"),
}
_TORQUE = r"(?P<value>[\d.,]+)\s*(?P<unit>n\s*m|lbf?\s*ft|ft\s*lbf?)?"
_KEYS = ("fastener", "torque", "lubricant", "threads", "gasket", "stages", "mains", "halves", "k")
_FORM = "[fastener SIZE] [torque TORQUE] [lubricant LUBRICANT] [k FACTOR] [threads LENGTH] [gasket GASKET] [stages SHARE ...] [mains yes] [halves yes]"


@frozen(kw_only=True)
class PlateChanged(Entry):
    """The torque plate goes on or comes off."""

    on: bool = fields.flag("plate on", "frame/strip")
    kind: Literal["plate_changed"] = "plate_changed"


@frozen(kw_only=True)
class ClampingStated(Entry):
    """How the plate, or the head it stands in for, is held down."""

    part: Part = told("which", Unit.CHOICE, choices=("plate", "head"), shown=PAGE)
    set_up: ClampSetUp = told("how it is held down", Unit.PARTS, shown=PAGE)
    kind: Literal["clamping_stated"] = "clamping_stated"


@frozen(kw_only=True)
class PlateTightened(Entry):
    """The plate's fasteners were gone through in this order (numbers from 1), at each of these torques in turn."""

    order: tuple[int, ...] = told("order", Unit.COUNT, least=1, why="no fastener; they are numbered from 1", shown=PAGE)
    torques_nm: tuple[float, ...] = told(
        "torques", Unit.TORQUE, above=0.0, most=2000.0, why="no torque of a head fastener", shown=PAGE
    )
    kind: Literal["plate_tightened"] = "plate_tightened"


def _changed(s: Clamped, x: PlateChanged, on: Folding) -> Clamped:
    return changed(s, plate_on=x.on)


def _stated(s: Clamped, x: ClampingStated, on: Folding) -> Clamped:
    return changed(s, clamping=tuple((dict(s.clamping) | {x.part: x.set_up}).items()))


def _tightened(s: Clamped, x: PlateTightened, on: Folding) -> Clamped:
    return changed(s, tightened=Tightened(on.record.at, on.record.person, x.order, x.torques_nm))


def _clamping(part: Part) -> Callable[[str, At], tuple[Entry, ...]]:
    def read(text: str, at: At) -> tuple[Entry, ...]:
        rest = behind(text)
        if rest.lower() == "same":
            other = at.state.clamped.held_down("plate" if part == "head" else "head")
            return (ClampingStated(part=part, set_up=other),)
        told_words = keyed(rest, _KEYS)
        return (ClampingStated(part=part, set_up=_set_up(told_words, at.state.clamped.held_down(part), at)),)

    return read


def _set_up(told_words: dict[str, str], old: ClampSetUp, at: At) -> ClampSetUp:
    read: dict[str, Callable[[str], dict[str, Any]]] = {
        "fastener": lambda t: {"fastener_mm": plain(t.lower().removeprefix("m"), at.where)},
        "threads": lambda t: {"engagement_mm": plain(t, at.where)},
        "torque": lambda t: {"torque_nm": torque_nm(t, at.where.units)},
        "lubricant": lambda t: _lubricant(t, "k" in told_words, at),
        "k": lambda t: {"nut_factor": between(t, 0.03, 0.5, "A nut factor K")},
        "gasket": lambda t: {"gasket": t},
        "stages": lambda t: {"stages": _stages(t)},
        "mains": lambda t: {"mains_torqued": yes("mains", t)},
        "halves": lambda t: {"halves_bolted": yes("halves", t)},
    }
    new: dict[str, Any] = {}
    for key, take in read.items():  # in this order: a stated K goes before that of the lubricant
        if key in told_words:
            new |= take(told_words[key])
    return replace(old, **new)


def _lubricant(text: str, k_is_told: bool, at: At) -> dict[str, Any]:
    name, figure = LUBRICANTS.get(text.lower(), (text, ""))
    if not figure and not k_is_told:
        raise InputError(f"K for “{name}” is not known here; add k 0.15, or say dry, engine oil, moly, low friction")
    return {"lubricant": name, "nut_factor": at.state.figures.number(f"fasteners.{figure}") if figure else None}


def _stages(text: str) -> tuple[float, ...]:
    shares = tuple(between(w.rstrip("%"), 1.0, 100.0, "A stage in per cent") / 100.0 for w in text.split())
    if list(shares) != sorted(set(shares)) or not shares or shares[-1] != 1.0:
        raise InputError("Stages grow and end with 100: stages 50 75 100")
    return shares


def torque_nm(text: str, units: Units) -> float:
    """A torque in N m: ``110 Nm``, ``80 lbf ft``; without a unit N m in a metric job, lbf ft in an inch job."""
    found = re.fullmatch(_TORQUE, text.strip(), re.IGNORECASE)
    if found is None:
        raise InputError(f"“{text}” is not a torque; write it like 110 Nm or 80 lbf ft")
    value = number(found["value"], "torque")
    unit = (found["unit"] or ("nm" if units is Units.METRIC else "lbf ft")).lower().replace(" ", "")
    torque = value if unit == "nm" else value * NM_PER_LBF_FT
    if not 1.0 <= torque <= 2000.0:
        raise InputError(f"{text} is no torque of a head fastener; check the unit")
    return torque


def _picks(at: At) -> dict[str, tuple[str, ...]]:
    return {"LUBRICANT": tuple(LUBRICANTS)}


def _example(at: At) -> str:
    metric = at.where.units is Units.METRIC
    bolt, torque, threads = ("12", "110", "22") if metric else ("0.5", "80", "0.87")
    return f"plate fastener {bolt} torque {torque} lubricant engine oil threads {threads} stages 50 75 100 mains yes"


def _plate(text: str, at: At) -> tuple[Entry, ...]:
    said = text.lower().split()
    if len(said) != 2:
        raise FormError("The plate goes on, or comes off")
    return (PlateChanged(on=said[1] == "on"),)


declare(
    PlateChanged, Topic.PLATE, ANY_STEP, lambda x, s: plate_words(x.on), into=(Into("clamped", _changed),),
    phrases=(
        Phrase(ANYWHERE, ("plate on", "plate off"), "plate {on | off}", "the torque plate goes on or comes off (P)",
               lambda at: "plate off" if at.state.clamped.plate_on else "plate on", _plate),
    ),
)  # fmt: skip
declare(
    ClampingStated, Topic.PLATE, "gauge", lambda x, s: f"how the {x.part} is held down", into=(Into("clamped", _stated),),
    phrases=(
        Phrase(("gauge",), ("plate",), f"plate {_FORM}", "how the plate is held down; what is not said stays as it was", _example, _clamping("plate"), _picks),
        Phrase(("gauge",), ("head",), f"head {{same | {_FORM}}}", "how the head is held down", lambda at: "head same", _clamping("head"), _picks),
    ),
)  # fmt: skip
declare(
    PlateTightened, Topic.PLATE, "gauge",
    lambda x, s: f"plate tightened, {len(x.order)} fasteners in {max(len(x.torques_nm), 1)} stages",
    into=(Into("clamped", _tightened),), not_typed="counted pull by pull on the plate page",
)  # fmt: skip
