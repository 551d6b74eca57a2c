"""How a typed line goes, as a form that can be shown, filled in and read back.

``machine NAME thick LENGTH [speeds TURNS ...]``: words as they stand, BLANKS in capitals, ``...`` behind one that may be several,
``[what may be left out]``, ``{one | of | these}``. Help shows it, a tag on the screen fills it: what is touched and what is typed are one line.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from functools import cache

from redline_bore.core.errors import FormError
from redline_bore.core.frozen import frozen
from redline_bore.core.late import late_pattern

_TOKEN = late_pattern(
    r"\s*(?:(?P<mark>[\[\]{}|])|(?P<more>\.\.\.)|(?P<blank>\+?[A-Z][A-Z0-9-]+(?=[\s\]}|:,]|$))|(?P<word>[^\s\[\]{}|]+))"
)
FREE = frozenset(
    {"WORDS", "WHY", "WHOM", "NAME", "WHO", "LUBRICANT", "GASKET", "STEPS", "WHAT", "STONE", "DEEP", "CODE", "DAY"}
)  # blanks that hold several words
WARM = frozenset({"TEMPERATURE", "TORQUE"})  # a figure and its unit
PLAIN = frozenset({"LENGTH", "SIZE", "FIGURE", "TURNS", "COUNT", "CM3", "DEGREES", "TEMPERATURE", "TORQUE", "FACTOR", "ANGLE", "A-MINUTE", "GRADE"})  # fmt: skip
GAP = r"(?:\s+|(?<=\s)|^)"
BETWEEN = frozenset({"at", "to", "x", "by", "as", "/", ":", "from"})


@frozen(often=True)
class Lit:
    """A word as it stands."""

    text: str


@frozen(often=True)
class Blank:
    """What is filled in. ``key``: its own in the form; ``label``: what it is called beside it; many: several, with blanks between."""

    key: str
    name: str
    label: str
    many: bool = False


@frozen(often=True)
class Maybe:
    """What may be left out; without a blank in it, it is a switch."""

    key: str
    parts: tuple[Part, ...]


@frozen(often=True)
class Pick:
    """One of several."""

    key: str
    ways: tuple[tuple[Part, ...], ...]


Part = Lit | Blank | Maybe | Pick
Form = tuple[Part, ...]


def form_words(form: str) -> str:
    """A form as it is shown: ``{a | b}`` is said “a, or b”."""
    return re.sub(r"\s+", " ", form.replace("{", "").replace("}", "").replace(" | ", ", or ")).strip()


@cache
def parsed(form: str) -> Form:
    """A form in its parts. Raises FormError where brackets do not close."""
    tokens = [m for m in _TOKEN.finditer(form) if m[0].strip()]
    return _sequence(tokens, 0, "", "f")[0]


def _sequence(tokens: list[re.Match[str]], at: int, end: str, key: str) -> tuple[Form, int]:
    found: list[Part] = []
    while at < len(tokens):
        token = tokens[at]
        mark = token["mark"]
        if mark is not None and mark in end:
            return tuple(found), at
        if mark in ("]", "}", "|"):
            raise FormError("A form closes what it did not open")
        own = f"{key}{len(found)}"
        if mark == "[":
            inner, at = _sequence(tokens, at + 1, "]", own)
            found.append(Maybe(own, inner))
        elif mark == "{":
            pick, at = _ways(tokens, at, own)
            found.append(pick)
        elif token["more"]:
            last = found[-1] if found else None
            if not isinstance(last, Blank):
                raise FormError("Nothing stands before ...")
            found[-1] = Blank(last.key, last.name, last.label, True)
        elif token["blank"]:
            found.append(Blank(own, token["blank"].lstrip("+"), _label(found, token["blank"], key == "f")))
        else:
            found.append(Lit(token["word"]))
        at += 1
    if end:
        raise FormError("A form does not close what it opened")
    return tuple(found), at


def _ways(tokens: list[re.Match[str]], at: int, key: str) -> tuple[Pick, int]:
    """What stands between braces, from the opening one on."""
    ways: list[Form] = []
    while at < len(tokens) and tokens[at]["mark"] != "}":
        inner, at = _sequence(tokens, at + 1, "|}", f"{key}{chr(97 + len(ways))}")
        ways.append(inner)
    return Pick(key, tuple(ways)), at


def _label(before: list[Part], name: str, top: bool) -> str:
    """What a blank is called: the words before it, its own name, or both; the word that the whole line begins with only where it has no
    better."""
    words: list[str] = []
    lead = before[0] if top and before and name.lstrip("+") not in PLAIN else None
    for part in reversed(before):
        if part is lead:
            break
        if not isinstance(part, Lit):
            if words or not isinstance(part, Blank):
                break
            continue
        if part.text.strip(":,") not in BETWEEN:
            words.insert(0, part.text.strip(":,"))
    own = name.lstrip("+").replace("-", " ").lower()
    if words and name.lstrip("+") in PLAIN:
        return " ".join(words)
    return own if not words or own in words else f"{words[-1]}, {own}"


def blanks_of(form: Form) -> Iterator[Blank]:
    """Every blank, in the order of the line."""
    for part in form:
        if isinstance(part, Blank):
            yield part
        elif isinstance(part, Maybe):
            yield from blanks_of(part.parts)
        elif isinstance(part, Pick):
            for way in part.ways:
                yield from blanks_of(way)


def composed(form: Form, filled: Mapping[str, str]) -> str:
    """The line that a form makes, filled in. What may be left out is, while none of its blanks is filled. Raises FormError naming a blank
    that is not filled."""
    return " ".join(" ".join(_composed(form, filled)).replace(" :", ":").replace(" ,", ",").split())


def _composed(form: Form, filled: Mapping[str, str]) -> Iterator[str]:
    for part in form:
        if isinstance(part, Lit):
            yield part.text
        elif isinstance(part, Blank):
            value = filled.get(part.key, "").strip()
            if not value:
                raise FormError(f"“{part.label}” is not filled in")
            yield value
        elif isinstance(part, Maybe):
            inside = list(blanks_of(part.parts))
            picked = any(filled.get(p.key, "") != "" for p in part.parts if isinstance(p, Pick))
            if any(filled.get(b.key, "").strip() for b in inside) or filled.get(part.key) == "yes" or picked:
                yield from _composed(part.parts, filled)
        else:
            yield from _composed(part.ways[int(filled.get(part.key) or 0)], filled)


def read_back(form: Form, line: str) -> dict[str, str] | None:
    """What a line fills a form with; None where it is not of this form."""
    found = re.fullmatch(_pattern(form), " ".join(line.split()), re.IGNORECASE)
    if found is None:
        return None
    return {k: v for k, v in found.groupdict().items() if v is not None and not k.startswith("_")} | _picked(
        form, found
    )


def _picked(form: Form, found: re.Match[str]) -> dict[str, str]:
    """Which of several it was, and which switches are on."""
    told = {}
    for part in form:
        if isinstance(part, Maybe):
            if found[f"_{part.key}"] is not None and not list(blanks_of(part.parts)):
                told[part.key] = "yes"
            if found[f"_{part.key}"] is not None:
                told |= _picked(part.parts, found)
        elif isinstance(part, Pick):
            for i, way in enumerate(part.ways):
                if found[f"_{part.key}_{i}"] is not None:
                    told[part.key] = str(i)
                    told |= _picked(way, found)
    return told


def _pattern(form: Form) -> str:
    made = ""
    for part in form:
        if isinstance(part, Lit):
            made += rf"\s*{re.escape(part.text)}(?=\s|:|,|$)"
        elif isinstance(part, Blank):
            one = r"\S+(?:\s(?:C|F|Nm|lbf ft))?" if part.name in WARM else r".+?" if part.name in FREE else r"[^\s:,]+"
            made += rf"{GAP}(?P<{part.key}>{one}(?:\s{one})*?)" if part.many else rf"{GAP}(?P<{part.key}>{one})"
        elif isinstance(part, Maybe):
            made += rf"(?P<_{part.key}>{GAP}{_pattern(part.parts)})?"
        else:
            ways = "|".join(rf"(?P<_{part.key}_{i}>{_pattern(way)})" for i, way in enumerate(part.ways))
            made += rf"\s*(?:{ways})"
    return made
