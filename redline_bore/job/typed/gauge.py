"""Words typed in the gauge step that are no readings: plans, zero and master, spindle, plate and head, other shops.

``plan race``, ``levels 10 24 60 110 196 as tall``, ``clocks 0 45 90 135``, ``zero 105.000 20.4 C``,
``zero three-point 105.000``, ``master +0.001 20.6 C``, ``spindle mains``,
``plate fastener 12 torque 110 lubricant engine oil threads 22 gasket steel shim stages 50 75 100 mains yes``,
``head same``, ``other Marigold plate off block 58 F aim 0.0030``, ``other 1 3.2699 at 2.0 clock 0``,
``other piston 1 3.2671``.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from redline_bore.core.clamping import NM_PER_LBF_FT, ClampSetUp
from redline_bore.core.errors import InputError
from redline_bore.core.gauging import LevelPlan, checked_plan
from redline_bore.core.lengths import Units, parse_length
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.fold import STANDARD_PLANS, standard_plan
from redline_bore.job.ledger.state import JobState
from redline_bore.job.typed.measures import clock, count, depth, plain, temperature
from redline_bore.job.typed.where import Where

LUBRICANTS = {
    "dry": ("dry", "k_dry"),
    "engine oil": ("engine oil", "k_engine_oil"),
    "oil": ("engine oil", "k_engine_oil"),
    "moly paste": ("moly paste", "k_moly_paste"),
    "moly": ("moly paste", "k_moly_paste"),
    "low friction": ("low-friction lubricant", "k_low_friction"),
}
YES = {"yes": True, "no": False}
_WARM = r"(?:\s+(?P<warm>-?[\d.,]+\s*°?\s*[cf]))?"
_ZERO = re.compile(r"(?:(?P<gauge>two-point|three-point)\s+)?(?P<size>\S+?)" + _WARM, re.IGNORECASE)
_MASTER = re.compile(r"(?P<read>[+\-−]?\S+?)" + _WARM, re.IGNORECASE)
_TORQUE = re.compile(r"(?P<value>[\d.,]+)\s*(?P<unit>n\s*m|lbf?\s*ft|ft\s*lbf?)?", re.IGNORECASE)
_OTHER_READING = re.compile(
    r"(?P<cylinder>\d+)\s+(?P<size>\S+)(?:\s+at\s+(?P<depth>\S+))?(?:\s+clock\s+(?P<clock>[\d.]+))?", re.IGNORECASE
)
_OTHER_PISTON = re.compile(r"piston\s+(?P<cylinder>\d+)\s+(?P<size>\S+)", re.IGNORECASE)


def words_at_gauge(text: str, state: JobState, where: Where) -> e.Entry | None:
    """The entry that a line beginning with one of the words above means; None when it begins with none of them.

    Raises InputError with the reason and what was meant.
    """
    word, _, rest = text.strip().partition(" ")
    read = _WORDS.get(word.lower())
    return None if read is None else read(rest.strip(), state, where)


def _plan(rest: str, state: JobState, where: Where) -> e.Entry:
    own = next((p for p in state.own_plans if p.name == rest), None)
    if own is not None:
        return _chosen(own)
    if rest.lower() not in STANDARD_PLANS:
        names = ", ".join((*STANDARD_PLANS, *(p.name for p in state.own_plans)))
        raise InputError(f"“plan {rest}” is not known here: {names}; or a new one, levels 10 24 60 as tall")
    return _chosen(standard_plan(state.book_in, state.figures, rest.lower()))


def _levels(rest: str, state: JobState, where: Where) -> e.Entry:
    figures, name = _named(rest)
    depths = tuple(depth(word, state, where) for word in figures)
    plan = LevelPlan(name, depths, state.plan.clocks_deg)
    return _chosen(checked_plan(_few(plan), state.block.length_mm))


def _clocks(rest: str, state: JobState, where: Where) -> e.Entry:
    figures, name = _named(rest)
    plan = LevelPlan(name, state.plan.depths_mm, tuple(clock(word) for word in figures))
    return _chosen(checked_plan(_few(plan), state.block.length_mm))


def _few(plan: LevelPlan) -> LevelPlan:
    if not 2 <= len(plan.depths_mm) <= 20 or not 2 <= len(plan.clocks_deg) <= 36:
        raise InputError("A plan has 2 to 20 levels and 2 to 36 chords")
    return plan


def _named(rest: str) -> tuple[list[str], str]:
    figures, _, name = rest.partition(" as ")
    return figures.split(), name.strip() or "own"


def _chosen(plan: LevelPlan) -> e.PlanChosen:
    return e.PlanChosen(name=plan.name, depths_mm=plan.depths_mm, clocks_deg=plan.clocks_deg)


def _zero(rest: str, state: JobState, where: Where) -> e.Entry:
    found = _ZERO.fullmatch(rest)
    if found is None:
        raise InputError("Zeroing is the master's size, and its temperature if it is known: zero 105.000 20.4 C")
    size = parse_length(found["size"], where.units, state.block.bore_mm, "reading").mm
    warm = temperature(found["warm"]) if found["warm"] else None
    steel = state.figures.number("thermal.steel")
    return e.GaugeSet(
        master_20_mm=size, master_c=20.0 if warm is None else warm, master_1e6=steel, gauge_1e6=steel, gauge_c=warm,
        gauge=(found["gauge"] or state.gauge_kind).lower(),
    )  # fmt: skip


def _master(rest: str, state: JobState, where: Where) -> e.Entry:
    if state.gauge is None:
        raise InputError("There is no zero to check: “zero 105.000 20.4 C” books the master it was set on")
    found = _MASTER.fullmatch(rest)
    if found is None:
        raise InputError("A check is what the gauge reads on its master: master +0.001 20.6 C")
    off = parse_length(found["read"], where.units).mm
    if abs(off) > 0.02 * state.block.bore_mm:
        raise InputError(f"{found['read']} from zero on its own master: type the distance from zero, like +0.001")
    warm = temperature(found["warm"]) if found["warm"] else None
    return e.MasterChecked(from_zero_mm=off, master_c=warm, gauge_c=warm)


def _spindle(rest: str, state: JobState, where: Where) -> e.Entry:
    words = rest.lower().split()
    if not words or words[0] not in ("mains", "deck"):
        raise InputError("Say what the spindle is set up on: spindle mains, or spindle deck")
    radius = plain(words[1], where) if len(words) > 1 else state.block.bore_mm / 2.0
    if not 0.4 <= radius / state.block.bore_mm <= 0.625:
        raise InputError(f"{words[1]} is no radius of this bore; half the bore is {state.block.bore_mm / 2:g} mm")
    return e.SpindleSet(cylinder=where.cylinder, zero_radius_mm=radius, based_on=words[0])


def _keyed(rest: str, keys: tuple[str, ...], example: str) -> dict[str, str]:
    """Words after their keys. Raises InputError naming what comes before the first key, or a key without a value."""
    found = re.split(rf"(?:^|\s+)({'|'.join(keys)})\s+", f" {rest}", flags=re.IGNORECASE)
    if found[0].strip() or len(found) < 3:
        raise InputError(
            f"“{(found[0].strip() or rest).split(' ')[0]}” is not understood here; write it like {example}"
        )
    return {k.lower(): v.strip() for k, v in zip(found[1::2], found[2::2], strict=True)}


_CLAMP_KEYS = ("fastener", "torque", "lubricant", "threads", "gasket", "stages", "mains", "halves", "k")
_CLAMP_EXAMPLE = (
    "plate fastener 12 torque 110 lubricant engine oil threads 22 gasket steel shim stages 50 75 100 mains yes"
)


def _clamping(part: Any) -> Callable[[str, JobState, Where], e.Entry]:
    def read(rest: str, state: JobState, where: Where) -> e.Entry:
        if rest.lower() == "same":
            other = state.held_down("plate" if part == "head" else "head")
            return e.ClampingStated(part=part, set_up=other)
        told = _keyed(rest, _CLAMP_KEYS, _CLAMP_EXAMPLE)
        return e.ClampingStated(part=part, set_up=_clamp_set_up(told, state.held_down(part), state, where))

    return read


def _clamp_set_up(told: dict[str, str], old: ClampSetUp, state: JobState, where: Where) -> ClampSetUp:
    read: dict[str, Callable[[str], dict[str, Any]]] = {
        "fastener": lambda t: {"fastener_mm": plain(t.lower().removeprefix("m"), where)},
        "threads": lambda t: {"engagement_mm": plain(t, where)},
        "torque": lambda t: {"torque_nm": torque_nm(t, where.units)},
        "lubricant": lambda t: _lubricant(t, "k" in told, state),
        "k": lambda t: {"nut_factor": _between(t, 0.03, 0.5, "A nut factor K")},
        "gasket": lambda t: {"gasket": t},
        "stages": lambda t: {"stages": _stages(t)},
        "mains": lambda t: {"mains_torqued": _yes("mains", t)},
        "halves": lambda t: {"halves_bolted": _yes("halves", t)},
    }
    new: dict[str, Any] = {}
    for key, take in read.items():  # in this order: a stated K goes before that of the lubricant
        if key in told:
            new |= take(told[key])
    return replace(old, **new)


def _lubricant(text: str, k_is_told: bool, state: JobState) -> dict[str, Any]:
    name, figure = LUBRICANTS.get(text.lower(), (text, ""))
    if not figure and not k_is_told:
        raise InputError(f"K for “{name}” is not known here; add k 0.15, or say dry, engine oil, moly, low friction")
    return {"lubricant": name, "nut_factor": state.figures.number(f"fasteners.{figure}") if figure else None}


def _stages(text: str) -> tuple[float, ...]:
    shares = tuple(_between(w.rstrip("%"), 1.0, 100.0, "A stage in per cent") / 100.0 for w in text.split())
    if list(shares) != sorted(set(shares)) or not shares or shares[-1] != 1.0:
        raise InputError("Stages grow and end with 100: stages 50 75 100")
    return shares


def _yes(key: str, text: str) -> bool:
    if text.lower() not in YES:
        raise InputError(f"“{key} {text}”: yes or no")
    return YES[text.lower()]


def torque_nm(text: str, units: Units) -> float:
    """A torque in N m: ``110 Nm``, ``80 lbf ft``; without a unit N m in a metric job, lbf ft in an inch job."""
    found = _TORQUE.fullmatch(text.strip())
    if found is None:
        raise InputError(f"“{text}” is not a torque; write it like 110 Nm or 80 lbf ft")
    value = float(found["value"].replace(",", "."))
    unit = (found["unit"] or ("nm" if units is Units.METRIC else "lbf ft")).lower().replace(" ", "")
    torque = value if unit == "nm" else value * NM_PER_LBF_FT
    if not 1.0 <= torque <= 2000.0:
        raise InputError(f"{text} is no torque of a head fastener; check the unit")
    return torque


def _between(text: str, low: float, high: float, what: str) -> float:
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise InputError(f"“{text}” is not a number") from None
    if not low <= value <= high:
        raise InputError(f"{what} lies between {low:g} and {high:g}, not at {text}")
    return value


_OTHER_KEYS = ("plate", "block", "pistons", "aim", "gauge over", "micrometer over", "corrected")
_OTHER_EXAMPLE = "other Marigold plate off block 58 F pistons 58 F aim 0.0030"


def _other(rest: str, state: JobState, where: Where) -> e.Entry:
    who = state.second_opinions[-1].conditions.who if state.second_opinions else ""
    for pattern, make in ((_OTHER_PISTON, _other_piston), (_OTHER_READING, _other_reading)):
        if found := pattern.fullmatch(rest):
            if not who:
                raise InputError(f"Say first who measured, and how: {_OTHER_EXAMPLE}")
            return make(found, who, state, where)
    name = re.split(rf"\s+(?:{'|'.join(_OTHER_KEYS)})\b", rest, maxsplit=1, flags=re.IGNORECASE)[0].strip()
    if not name or name[0].isdigit():
        raise InputError(
            f"Begin with who measured: {_OTHER_EXAMPLE}; then other 1 {where.units.mark} size at depth clock 0"
        )
    tail = rest[len(name) :].strip()
    told = _keyed(tail, _OTHER_KEYS, _OTHER_EXAMPLE) if tail else {}
    return _conditions(name, told, where)


def _conditions(name: str, told: dict[str, str], where: Where) -> e.SecondOpinionOpened:
    plate = told.get("plate", "off").lower()
    if plate not in ("on", "off"):
        raise InputError(f"“plate {plate}”: on or off")

    def warm(key: str) -> float | None:
        if key not in told:
            return None
        celsius = temperature(told[key])
        if celsius is None:
            raise InputError(f"“{key} {told[key]}” is not a temperature; write it like 58 F or 14.5 C")
        return celsius

    def over(key: str) -> float:
        return parse_length(told[key], where.units).mm if key in told else 0.0

    return e.SecondOpinionOpened(
        who=name, plate_on=plate == "on", block_c=warm("block"), piston_c=warm("pistons"),
        at_20=told.get("corrected", "no").lower() == "yes", aim_mm=plain(told["aim"], where) if "aim" in told else None,
        bore_gauge_over_mm=over("gauge over"), micrometer_over_mm=over("micrometer over"),
    )  # fmt: skip


def _other_reading(found: re.Match[str], who: str, state: JobState, where: Where) -> e.Entry:
    return e.OtherReadingBooked(
        who=who, cylinder=count(found["cylinder"], state),
        diameter_mm=parse_length(found["size"], where.units, state.block.bore_mm, "reading").mm,
        depth_mm=depth(found["depth"], state, where) if found["depth"] else None,
        clock_deg=clock(found["clock"]) if found["clock"] else None,
    )  # fmt: skip


def _other_piston(found: re.Match[str], who: str, state: JobState, where: Where) -> e.Entry:
    size = parse_length(found["size"], where.units, state.block.bore_mm, "reading").mm
    return e.OtherPistonBooked(who=who, cylinder=count(found["cylinder"], state), size_mm=size)


_WORDS: dict[str, Callable[[str, JobState, Where], e.Entry]] = {
    "plan": _plan,
    "levels": _levels,
    "clocks": _clocks,
    "zero": _zero,
    "master": _master,
    "spindle": _spindle,
    "plate": _clamping("plate"),
    "head": _clamping("head"),
    "other": _other,
}
