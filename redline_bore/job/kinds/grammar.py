"""What may be typed, read from the declarations of the kinds: words and figures in the order they are said."""

from __future__ import annotations

import re
from functools import cache

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.lengths import LengthError
from redline_bore.job import kinds as _declared  # noqa: F401  (importing declares every kind)
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.kinds.gauge import TEMPERATURE
from redline_bore.job.kinds.kind import KINDS
from redline_bore.job.kinds.measures import temperature
from redline_bore.job.kinds.phrase import ANYWHERE, At, Phrase


@cache
def phrases_at(step: str) -> tuple[Phrase, ...]:
    """The lines that may be typed in a step, those that begin with a figure first, the block's temperature last."""
    own = [p for k in KINDS.values() for p in k.phrases if step in p.steps and p is not TEMPERATURE]
    return (*sorted(own, key=lambda p: bool(p.leads)), TEMPERATURE)


def read_typed(step: str, text: str, at: At) -> tuple[Entry, ...]:
    """The entries that ``text`` means in ``step``. Raises InputError with the reason and what was meant."""
    words = " ".join(text.split())
    if temperature(words) is not None:
        return TEMPERATURE.read(words, at)
    first = words.partition(" ")[0].lower()
    if first == "block":
        raise InputError("The block's temperature is typed with its unit: block 22.9 C, or block 73 F")
    own = [p for p in phrases_at(step) if p is not TEMPERATURE]
    for phrase in own:
        if any(words.lower() == lead or words.lower().startswith(lead + " ") for lead in phrase.leads):
            return _read(phrase, words, at)
    if elsewhere := _elsewhere(first):
        raise InputError(f"“{first}” is typed in the {_step(elsewhere)} step: {elsewhere.example(at)}")
    bare = next((p for p in own if not p.leads), None)
    if bare is not None:
        try:
            return _read(bare, words, at)
        except InputError as error:
            if (
                first[:1].isalpha()
                and first not in re.findall("[a-z]+", bare.form)
                and (meant := _nearest(step, first))
            ):
                raise InputError(f"{error}; perhaps “{meant}” was meant") from error
            raise
    raise InputError(_nothing(step, first, at))


def _read(phrase: Phrase, words: str, at: At) -> tuple[Entry, ...]:
    """What a phrase makes of a line; where it is not in its form, an example of it from this job is said too."""
    try:
        return phrase.read(words, at)
    except FormError as error:
        raise InputError(f"{error}; write it like: {phrase.example(at)}") from error
    except LengthError as error:
        odd = next((w for w in words.split()[1:] if w.isalpha() and f"“{w}”" in str(error)), "")
        if phrase.leads and odd:  # a word where a figure stands: how lengths are written is not what is wanted
            raise InputError(f"“{odd}” has no place there; write it like: {phrase.example(at)}") from error
        raise


@cache
def _elsewhere(first: str) -> Phrase | None:
    """The phrase of some other step that begins with a word."""
    return next((p for k in KINDS.values() for p in k.phrases if first in p.leads), None) if first.isalpha() else None


def _step(phrase: Phrase) -> str:
    return phrase.steps[0].replace("_", " ")


def _nearest(step: str, first: str) -> str:
    """The word nearest to a slip; empty where none is near."""
    import difflib  # only where nothing fits

    leads = [lead for p in phrases_at(step) for lead in p.leads]
    return next(iter(difflib.get_close_matches(first, leads, 1)), "")


def _nothing(step: str, first: str, at: At) -> str:
    """What is said where a line begins with nothing that is typed in a step."""
    files = [lead for k in KINDS.values() if k.step == step for lead in k.by_file]
    own = sorted(phrases_at(step), key=lambda p: p.steps == ANYWHERE)  # what is typed anywhere is named last
    leads = [*files, *dict.fromkeys(lead for p in own for lead in p.leads)]
    near = _nearest(step, first)
    meant = f"; perhaps “{near}” was meant" if near else ""
    return f"“{first}” is nothing that is typed here; it begins with {', '.join(leads)}{meant}"
