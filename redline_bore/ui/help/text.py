"""The text of the help: a screen for every page, and the words of the shop. Read once, from files beside this one."""

from __future__ import annotations

import re
import tomllib
from functools import cache
from pathlib import Path

from redline_bore.core.frozen import frozen

HERE = Path(__file__).parent
ASKED = {"see": "What you see", "read": "How to read it", "next": "What to do next", "wrong": "What goes wrong"}


@frozen(often=True)
class PageHelp:
    """One screen: what is seen, how it is read, what is done next, what goes wrong."""

    see: str
    read: str
    next: str
    wrong: str


@cache
def help_of(step: str, page: str) -> PageHelp | None:
    """The help of a page; of a step without pages, its only one. None where there is none."""
    pages = _pages().get(step, {})
    return pages.get(page) or (next(iter(pages.values())) if len(pages) == 1 else None)


@cache
def _pages() -> dict[str, dict[str, PageHelp]]:
    told = tomllib.loads((HERE / "pages.toml").read_text("utf-8"))
    return {step: {page: PageHelp(**text) for page, text in pages.items()} for step, pages in told.items()}


@cache
def shop_words() -> dict[str, str]:
    """Every word of the shop, and what it means."""
    return dict(sorted(tomllib.loads((HERE / "words.toml").read_text("utf-8")).items(), key=lambda w: w[0].lower()))


def words_in(text: str) -> dict[str, str]:
    """The words of the shop that a text uses."""
    lower = text.lower()
    return {w: m for w, m in shop_words().items() if any(_used(one, lower) for one in w.split(","))}


def _used(word: str, text: str) -> bool:
    return re.search(rf"\b{re.escape(word.strip().lower())}s?\b", text) is not None
