"""The entries of the sign-off: final gauging, ring gaps, care, points accepted, stamps. Lengths in mm."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.frozen import changed, frozen
from redline_bore.core.show import Show
from redline_bore.core.told import Unit, told
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.folding import Folding
from redline_bore.job.kinds.gauge import plate_words
from redline_bore.job.kinds.kind import ANY_STEP, Into, Wrong, declare
from redline_bore.job.kinds.measures import behind, bore_size, plain
from redline_bore.job.kinds.phrase import At, Phrase
from redline_bore.job.kinds.topics import Topic
from redline_bore.job.state import fields
from redline_bore.job.state.job_state import STEP_TITLES, STEPS
from redline_bore.job.state.signing import MOST_GAP_SHARE, SHEET, Accepted, Final, RingGaps, Signing, Stamp, TakenCare

SIGN_OFF, SLICE = ("sign_off",), "signing"
Care = Literal["washed", "oiled"]
CARE_WORDS: tuple[Care, ...] = ("washed", "oiled")


@frozen(kw_only=True)
class FinalGauged(Entry):
    """The finished hole, as read at the block's own temperature: sizes top to bottom, and across them at a second angle."""

    cylinder: int = fields.cylinder(SHEET)
    sizes_mm: tuple[float, ...] = fields.sizes("final sizes", SHEET)
    plate_on: bool = fields.flag("plate on", SHEET)
    across_mm: tuple[float, ...] = fields.size("across", SHEET, default=())
    kind: Literal["final_gauged"] = "final_gauged"


@frozen(kw_only=True)
class RingsGapped(RingGaps, Entry):
    """End gaps of the rings of a cylinder, as filed and measured in its finished bore."""

    kind: Literal["rings_gapped"] = "rings_gapped"


@frozen(kw_only=True)
class CareTaken(Entry):
    """The block was washed until a white cloth stayed white, or dried and oiled."""

    what: Care = told("what", Unit.CHOICE, choices=CARE_WORDS, shown=SHEET)
    kind: Literal["care_taken"] = "care_taken"


@frozen(kw_only=True)
class PointAccepted(Entry):
    """An open point is accepted by whoever books this, with the reason."""

    point: str = fields.words("point", SHEET)
    reason: str = fields.words("why", SHEET, default="")
    about: str = fields.words("which point", SHEET, default="")
    kind: Literal["point_accepted"] = "point_accepted"


@frozen(kw_only=True)
class JobReopened(Entry):
    """A signed job is opened again for entries."""

    reason: str = fields.words("why", SHEET)
    kind: Literal["job_reopened"] = "job_reopened"


@frozen(kw_only=True)
class StepStamped(Entry):
    """A step of the route is stamped by whoever did it."""

    step: str = told("step", Unit.CHOICE, choices=STEPS, shown="frame/strip")
    initials: str = fields.words("initials", "frame/strip")
    kind: Literal["step_stamped"] = "step_stamped"


def _finished(s: Signing, x: FinalGauged, on: Folding) -> Signing:
    r, sizes, across = on.record, on.all_to_20(x.sizes_mm), on.all_to_20(x.across_mm)
    return changed(
        s, finals=s.finals.plus(Final(r.seq, x.cylinder, sizes, across, x.plate_on, r.block_c, r.person, r.at))
    )


def _gapped(s: Signing, x: RingsGapped, on: Folding) -> Signing:
    return changed(s, rings=(*(r for r in s.rings if r.cylinder != x.cylinder), x))


def _cared(s: Signing, x: CareTaken, on: Folding) -> Signing:
    return changed(s, cares=(*s.cares, TakenCare(x.what, on.record.person, on.record.at)))


def _accepted(s: Signing, x: PointAccepted, on: Folding) -> Signing:
    taken = Accepted(x.point, x.reason, on.record.person, on.record.at, x.about)
    return changed(s, accepted=(*s.accepted, taken))


def _reopened(s: Signing, x: JobReopened, on: Folding) -> Signing:
    return changed(s, reopened=on.record.seq)


def _stamped(s: Signing, x: StepStamped, on: Folding) -> Signing:
    return changed(s, stamps=(*s.stamps, Stamp(x.step, x.initials, on.record.at, on.record.seq)))


def _final(text: str, at: At) -> tuple[Entry, ...]:
    where, plate_on = at.where, at.state.clamped.plate_on
    down, _, across = behind(text).lower().partition("across")
    sizes, second = (tuple(_final_size(w, at) for w in row.split()) for row in (down, across))
    if not sizes:
        raise FormError("The finished hole is typed from the top down, then across")
    if second and len(second) != len(sizes):
        raise InputError(f"{len(sizes)} sizes down, {len(second)} across: as many both ways, at the same depths")
    return (FinalGauged(cylinder=where.cylinder, sizes_mm=sizes, across_mm=second, plate_on=plate_on),)


def _final_size(word: str, at: At) -> float:
    read = at.where.read_mm(word)
    return bore_size(word, at.state, at.where) if read is None else read


def _rings(text: str, at: At) -> tuple[Entry, ...]:
    words = behind(text).split()
    if len(words) not in (1, 2):
        raise FormError("Ring gaps are typed top, then second")
    gaps = [plain(w, at.where) for w in words]
    if max(gaps) > MOST_GAP_SHARE * at.state.block.bore_mm:
        raise InputError(f"A ring gap of {words[gaps.index(max(gaps))]} is far too wide; look at the unit")
    second = gaps[1] if len(gaps) > 1 else None
    return (RingsGapped(cylinder=at.where.cylinder, top_mm=gaps[0], second_mm=second),)


def _care(text: str, at: At) -> tuple[Entry, ...]:
    what = text.lower()
    if what not in CARE_WORDS:
        raise InputError("Washed, or oiled: that one word")
    return (CareTaken(what=what),)


PRACTICE = "simulated"  # the key of the point that simulated instruments leave open
NOT_REAL = "Practice with simulated instruments is not signed as real work: nobody takes that upon himself"


def _accept(text: str, at: At) -> tuple[Entry, ...]:
    words, points = behind(text).split(), at.proposals.open_points(at.state)
    if not points:
        raise InputError("No point is open")
    if not words or not (words[0].lower() == "all" or words[0].isdecimal()):
        raise InputError(f"Say which of the {len(points)} open points, and why: accept 1 the owner has no plate")
    reason = " ".join(words[1:])
    if not reason:
        raise InputError("An open point is accepted with its reason: accept 1 the owner has no plate")
    if words[0].lower() == "all":
        open_to_all = [p for p in points if p.key != PRACTICE]
        if not open_to_all:
            raise InputError(NOT_REAL)
        return tuple(PointAccepted(point=p.words, reason=reason, about=p.key) for p in open_to_all)
    number = int(words[0])
    if not 1 <= number <= len(points):
        raise InputError(f"There is no open point {number}; there are {len(points)}")
    point = points[number - 1]
    if point.key == PRACTICE:
        raise InputError(NOT_REAL)
    return (PointAccepted(point=point.words, reason=reason, about=point.key),)


def _reopen(text: str, at: At) -> tuple[Entry, ...]:
    if not at.state.signing.closed:
        raise InputError("This job is open")
    if not behind(text):
        raise InputError("Say why: reopen ring gap of 2 to be filed again")
    return (JobReopened(reason=behind(text)),)


def _as_many_across(x: FinalGauged) -> list[Wrong]:
    return (
        [Wrong("across_mm", "as many sizes across as down")]
        if x.across_mm and len(x.across_mm) != len(x.sizes_mm)
        else []
    )


def _final_words(x: FinalGauged, s: Show) -> str:
    return f"{x.cylinder}: final {s.unit(' '.join(s.size(v) for v in (*x.sizes_mm, *x.across_mm)))}, {plate_words(x.plate_on)}"


def _rings_words(x: RingsGapped, s: Show) -> str:
    return f"{x.cylinder}: ring gaps " + s.unit(", ".join(s.rough(v) for v in (x.top_mm, x.second_mm) if v is not None))


def _final_example(at: At) -> str:
    say, size = at.show.size, at.state.block.bore_mm + 0.5
    return f"final {say(size)} {say(size + 0.001)} across {say(size)} {say(size + 0.001)}"


def _rings_example(at: At) -> str:
    gap = 0.004 * at.state.block.bore_mm
    return f"rings {at.show.size(gap)} {at.show.size(1.1 * gap)}"


declare(
    FinalGauged, Topic.SIGN_OFF, "sign_off", _final_words, into=(Into(SLICE, _finished),), wrong=_as_many_across,
    phrases=(
        Phrase(SIGN_OFF, ("final",), "final SIZE ... [across SIZE ...]", "the finished hole from the top down, and at a second angle", _final_example, _final),
    ),
)  # fmt: skip
declare(
    RingsGapped, Topic.SIGN_OFF, "sign_off", _rings_words, into=(Into(SLICE, _gapped),),
    phrases=(Phrase(SIGN_OFF, ("rings",), "rings TOP [SECOND]", "end gaps of this cylinder's rings, as filed", _rings_example, _rings),),
)  # fmt: skip
declare(
    CareTaken, Topic.SIGN_OFF, "sign_off", lambda x, s: f"the block is {x.what}", into=(Into(SLICE, _cared),),
    phrases=(Phrase(SIGN_OFF, CARE_WORDS, "{washed | oiled}", "washed until a white cloth stays white; dried and oiled", lambda at: "washed", _care),),
)  # fmt: skip
declare(
    PointAccepted, Topic.SIGN_OFF, "sign_off", lambda x, s: f"accepted: {x.point}" + (f" ({x.reason})" if x.reason else ""),
    into=(Into(SLICE, _accepted),),
    phrases=(Phrase(SIGN_OFF, ("accept",), "accept {NUMBER | all} WHY", "an open point is taken upon yourself, with the reason", lambda at: "accept 1 the owner has no plate", _accept),),
)  # fmt: skip
declare(
    JobReopened, Topic.STAMPS, "sign_off", lambda x, s: f"opened again: {x.reason}", into=(Into(SLICE, _reopened),),
    phrases=(Phrase(SIGN_OFF, ("reopen",), "reopen WHY", "a signed job takes entries again", lambda at: "reopen ring gap of 2 to be filed again", _reopen),),
)  # fmt: skip
declare(
    StepStamped, Topic.STAMPS, ANY_STEP, lambda x, s: f"{STEP_TITLES.get(x.step, x.step)} stamped by {x.initials}",
    into=(Into(SLICE, _stamped),), not_typed="Enter with nothing typed stamps a step that is done",
)  # fmt: skip
