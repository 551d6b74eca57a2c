"""Book-in as it is being typed: plain strings by field, and what they amount to. No toolkit in it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from redline_bore.core.block import MATERIALS, BlockSpec, Bottom, Layout, Numbering, WallKind, faults_of, length_guess
from redline_bore.core.errors import Fault, FaultyInput, InputError
from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.core.lengths import Units, format_length, parse_length
from redline_bore.job.book_in.family_settings import SetOnJob
from redline_bore.job.profiles.alloys import ALLOYS
from redline_bore.job.profiles.duty import DUTY_NAMES
from redline_bore.job.profiles.practice import options
from redline_bore.job.profiles.purpose import PURPOSES
from redline_bore.job.state.booking import BookIn
from redline_bore.job.state.job_state import JobState

T = TypeVar("T")


@frozen(often=True)
class Field:
    """A line of the book-in. ``choices``: word kept -> word shown, empty for typed fields."""

    name: str
    label: str
    choices: tuple[tuple[str, str], ...] = ()
    hint: str = ""


def _same(*words: str) -> tuple[tuple[str, str], ...]:
    return tuple((str(w), str(w).replace("_", " ")) for w in words)


FIELDS = (
    Field("number", "Job number"),
    Field("owner", "Owner", hint="for the sheet"),
    Field("engine", "Engine family", hint="brings back what was set"),
    Field("units", "Worked in", (("metric", "millimetres"), ("inch", "inches"))),
    Field("layout", "Layout", _same(*Layout)),
    Field("cylinders", "Cylinders"),
    Field(
        "numbering",
        "Numbered, two banks",
        (("not said", "not said"), ("by bank", "down each bank"), ("across", "across, in turn")),
    ),
    Field("bore_mm", "Nominal bore"),
    Field("stroke_mm", "Stroke"),
    Field("length_mm", "Cylinder length", hint="asked at the gauge"),
    Field("pitch_mm", "Bore pitch", hint="if known"),
    Field("room_below_mm", "Room below", hint="not known"),
    Field("material", "Material", tuple(MATERIALS.items())),
    Field("wall", "Wall", _same(*WallKind)),
    Field("bottom", "Bottom", _same(*Bottom)),
    Field("fasteners", "Fasteners a bore", (("4", "4"), ("5", "5"), ("6", "6"), ("8", "8"))),
    Field("band_mm", "Hardened down to", hint="none"),
    Field("ring_top_mm", "Top ring stops at", hint="starting point"),
    Field("ring_pack_mm", "Ring pack", hint="starting point"),
    Field("purpose", "Purpose", _same(*PURPOSES)),
    Field("duty", "Duty", _same(*DUTY_NAMES)),
    Field("piston_alloy", "Piston alloy", tuple(ALLOYS.items())),
    Field("oversizes", "Piston oversizes", hint="which exist"),
    Field("honing", "Honing practice", tuple((p.name, p.title) for p in options("honing"))),
)
LONGEST_WORDS = 120
LENGTHS = ("bore_mm", "stroke_mm", "length_mm", "pitch_mm", "room_below_mm", "band_mm", "ring_top_mm", "ring_pack_mm")
NEEDED = ("bore_mm", "stroke_mm")
FIRST = (
    "units",
    "layout",
    "cylinders",
    "bore_mm",
    "stroke_mm",
)  # what a new job begins with; the rest is asked when it matters
LABELS = {f.name: f.label for f in FIELDS}


def usual_oversizes(units: Units, figures: Figures) -> str:
    """The oversizes that pistons are commonly had in, as they are typed in these units."""
    return " ".join(f"{s:g}" for s in figures.row(f"cleanup.oversizes_{units.value}"))


def empty_draft(units: Units, figures: Figures, last: JobState | None = None, number: str = "") -> dict[str, str]:
    """A blank book-in with the shop's usual choices made: worked in and laid out as the job before was. number: the one that comes next."""
    draft = {f.name: (f.choices[0][0] if f.choices else "") for f in FIELDS}
    units = units if last is None else last.units
    layout, count = (Layout.INLINE, 4) if last is None else (last.block.layout, last.block.cylinders)
    return draft | {
        "number": number,
        "units": units.value,
        "layout": layout.value,
        "cylinders": str(count),
        "purpose": "bore oversize",
        "oversizes": usual_oversizes(units, figures),
    }


def in_other_units(draft: Mapping[str, str], units: Units, figures: Figures) -> dict[str, str]:
    """A draft that is to be worked in other units: oversizes that nobody typed become those of the units."""
    before = usual_oversizes(units.other, figures)
    own = draft["oversizes"].strip() not in ("", before)
    return {**draft, "units": units.value, "oversizes": draft["oversizes"] if own else usual_oversizes(units, figures)}


def draft_of(job: SetOnJob) -> dict[str, str]:
    """The book-in of a job as text, in the job's units."""
    b, units = job.block, job.units

    def text(value_mm: float | None) -> str:
        if value_mm is None:
            return ""
        shown = format_length(value_mm, units, "0.0001" if units is Units.INCH else "0.001")
        return shown.rstrip("0").rstrip(".")

    book = job.book_in
    draft = {name: "" if name in book.proposed else text(getattr(b, name)) for name in LENGTHS}
    return draft | {
        "number": job.number, "owner": book.owner, "engine": book.engine, "units": units.value, "layout": b.layout.value,
        "cylinders": str(b.cylinders), "material": b.material, "wall": b.wall.value, "bottom": b.bottom.value, "fasteners": str(b.fasteners), "numbering": b.numbering.value,
        "purpose": book.purpose, "duty": book.duty, "piston_alloy": book.piston_alloy,
        "oversizes": " ".join(text(s) for s in book.oversizes_mm), "honing": job.practices["honing"],
    }  # fmt: skip


def block_from_draft(draft: Mapping[str, str]) -> tuple[BlockSpec | None, list[Fault]]:
    """The block as far as it is typed, with every fault by field; None while it cannot be drawn."""
    faults = _unknown_choices(draft)
    if faults:
        return None, faults
    units = Units(draft["units"])
    values: dict[str, Any] = {}
    for name in LENGTHS:
        values[name] = _length(draft[name], name, units, faults)
    count = _tried(faults, "cylinders", lambda: _count(draft["cylinders"]))
    if count is None or any(values[name] is None for name in NEEDED) or any(f.path == "length_mm" for f in faults):
        return None, faults
    values["length_mm"] = values["length_mm"] or length_guess(values["stroke_mm"])
    spec = BlockSpec(
        Layout(draft["layout"]), count, material=draft["material"], wall=WallKind(draft["wall"]),
        bottom=Bottom(draft["bottom"]), fasteners=int(draft["fasteners"]), numbering=Numbering(draft["numbering"]), **values,
    )  # fmt: skip
    told = {f.path for f in faults}
    faults += [f for f in faults_of(spec, units) if f.path not in told]
    return spec, faults


def _unknown_choices(draft: Mapping[str, str]) -> list[Fault]:
    return [
        Fault(f.name, f"{f.label.lower()}: one of {', '.join(shown for _, shown in f.choices)}")
        for f in FIELDS
        if f.choices and draft[f.name] not in {word for word, _ in f.choices}
    ]


def _length(text: str, name: str, units: Units, faults: list[Fault]) -> float | None:
    if not text.strip():
        if name in NEEDED:
            faults.append(
                Fault(name, f"{LABELS[name].lower()} is needed, such as {'4.0' if units is Units.INCH else '92.0'}")
            )
        return None
    return _tried(faults, name, lambda: parse_length(text, units).mm)


def _step(word: str, units: Units, faults: list[Fault]) -> float | None:
    return _tried(faults, "oversizes", lambda: parse_length(word, units, least_mm=0.0).mm)


def _count(text: str) -> int:
    if not text.strip().isdecimal() or len(text) > 20:
        raise InputError(f"“{text.strip()[:20]}” is no count of cylinders")
    return int(text.strip())


def _tried(faults: list[Fault], name: str, work: Callable[[], T]) -> T | None:
    try:
        return work()
    except InputError as error:
        faults.append(Fault(name, str(error)))
        return None


def book_in_from_draft(draft: Mapping[str, str]) -> BookIn:
    """The book-in that a draft amounts to. Raises FaultyInput with every fault, each under its field's name."""
    spec, faults = block_from_draft(draft)
    for name in ("number", "owner", "engine"):
        if name == "number" and not draft[name].strip():
            faults.append(Fault(name, f"{LABELS[name].lower()} is needed"))
        elif len(draft[name]) > LONGEST_WORDS or not draft[name].isprintable():
            faults.append(
                Fault(name, f"{LABELS[name].lower()}: at most {LONGEST_WORDS} characters, and none that cannot be seen")
            )
    if _unknown_choices(draft):
        raise FaultyInput(faults)
    units = Units(draft["units"])
    steps = [_step(word, units, faults) for word in draft["oversizes"].replace(";", " ").split()]
    sizes = tuple(sorted({round(s, 6) for s in steps if s is not None}))
    if spec is not None and any(s > 0.1 * spec.bore_mm for s in sizes):
        faults.append(Fault("oversizes", "an oversize of more than a tenth of the bore is no oversize; check the unit"))
    if faults or spec is None:
        raise FaultyInput(faults)
    return BookIn(
        owner=draft["owner"].strip(), engine=draft["engine"].strip(), block=spec, purpose=draft["purpose"],
        duty=draft["duty"], piston_alloy=draft["piston_alloy"], oversizes_mm=sizes,
        proposed=() if draft["length_mm"].strip() else ("length_mm",),
    )  # fmt: skip
