"""Named practices: where schools differ, both sides are offered with a reason; the job records which was used."""

from __future__ import annotations

from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen
from redline_bore.job.profiles.data import table


@frozen
class Practice:
    """One way of doing a thing. ``figures`` names the figures it is worked with, where it has any; timed: its steps counted in seconds."""

    topic: str
    name: str
    title: str
    reason: str
    figures: str = ""
    steps: tuple[str, ...] = ()
    timed: tuple[str, ...] = ()


def _read(topic: str) -> tuple[Practice, ...]:
    return tuple(
        Practice(
            topic,
            w["name"],
            w["title"],
            w["reason"],
            w.get("figures", ""),
            tuple(w.get("steps", ())),
            tuple(w.get("timed", ())),
        )
        for w in table("practice")[topic]["ways"]
    )


PRACTICE_TOPICS: dict[str, str] = {topic: row["title"] for topic, row in table("practice").items()}
SHOP_DEFAULT: dict[str, str] = {topic: row["shipped"] for topic, row in table("practice").items()}
PRACTICES: dict[str, tuple[Practice, ...]] = {topic: _read(topic) for topic in PRACTICE_TOPICS}


def shop_practices(figures: Figures) -> dict[str, str]:
    """The shop's own way in every topic, as its figures say; a word that is no practice is the shipped default."""
    found = {}
    for topic, usual in SHOP_DEFAULT.items():
        word = figures.word(f"practices.{topic}")
        found[topic] = word if any(p.name == word for p in options(topic)) else usual
    return found


def options(topic: str) -> tuple[Practice, ...]:
    """The practices of a topic, in the order they are offered."""
    return PRACTICES[topic]


def next_practice(topic: str, name: str) -> Practice:
    """The practice that is offered after one, the first after the last; the first where the name is not known."""
    names = [p.name for p in options(topic)]
    return options(topic)[(names.index(name) + 1) % len(names) if name in names else 0]


def practice(topic: str, name: str) -> Practice:
    """One practice; the shop's default where the name is not known (a newer program may have written it)."""
    found = {p.name: p for p in options(topic)}
    return found.get(name) or found[SHOP_DEFAULT[topic]]
