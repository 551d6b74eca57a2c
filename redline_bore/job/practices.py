"""Named practices: where schools differ, both sides are offered with a reason; the job records which was used."""

from __future__ import annotations

from redline_bore.core.figures import Figures
from redline_bore.core.frozen import frozen


@frozen
class Practice:
    """One way of doing a thing. ``figures`` names the figures it is worked with, where it has any."""

    topic: str
    name: str
    title: str
    reason: str
    figures: str = ""
    steps: tuple[str, ...] = ()


TOPICS = {
    "clearance": "Clearance by",
    "honing": "Honing",
    "wear_side": "Wear on the worse side",
    "hone_allowance": "Left for the hone",
    "axis": "Bored about",
    "odd_cylinder": "One odd cylinder",
    "finish": "Finish judged by",
}

PRACTICES: tuple[Practice, ...] = (
    Practice("clearance", "piston sheet", "piston sheet", "the maker knows the skirt and the alloy"),
    Practice("clearance", "manual", "engine maker's manual", "the engine was proved at that figure"),
    Practice("clearance", "habit", "the shop's habit", "it has worked here for this duty"),
    Practice("clearance", "share of bore", "share of the bore by alloy", "a starting point for when no sheet is at hand"),
    Practice(
        "honing", "two steps", "two steps, deep valleys", "stepping through finer stones would erase the valleys",
        "honing.two_step_short", ("coarse", "plateau"),
    ),
    Practice(
        "honing", "four steps", "four steps", "each finer stone takes out the marks of the one before",
        "honing.four_step_short", ("rough", "semi-finish", "finish", "plateau"),
    ),
    Practice(
        "honing", "two steps by time", "two steps, plateau by seconds", "seconds at a light load repeat where strokes are not counted",
        "honing.two_step_time_short", ("coarse", "plateau by time"),
    ),
    Practice(
        "honing", "leg hone", "drill and leg hone", "one grit to size or to clean-up, counted strokes, no size to spare",
        "honing.leg_hone_short", ("one grit",),
    ),
    Practice(
        "honing", "ball hone", "ball hone, deglaze only", "breaks the glaze and takes no size",
        "honing.ball_hone_short", ("deglaze",),
    ),
    Practice("wear_side", "usual share", "usual share", "most wear lies on the thrust side, some on the other"),
    Practice(
        "hone_allowance", "stones", "enough for stones", "takes out tool marks and torn layer with room to correct shape",
        "boring.allowance_stones",
    ),
    Practice(
        "hone_allowance", "fine bore", "a fine bore, diamond", "a slow fine feed and a stiff bar make the honing short",
        "boring.allowance_fine_bore",
    ),
    Practice(
        "hone_allowance", "half thou", "half a thou", "only with a finish feed and a proved bar: little room for marks",
        "boring.allowance_half_thou",
    ),
    Practice(
        "hone_allowance", "after sleeving", "as after sleeving", "the sleeve moves as it seats",
        "boring.allowance_after_sleeving",
    ),
    Practice("axis", "unworn bottom", "the unworn bottom of the hole", "where the hole was bored; the usual"),
    Practice("axis", "under the ridge", "the hole just under the ridge", "easy to centre in where the bottom is blind"),
    Practice("axis", "crank line", "the crank line and bore spacing", "puts a crooked or shifted hole right, and costs metal"),
    Practice("axis", "least metal", "least metal, square", "keeps the most wall and the most rebuilds"),
    Practice("axis", "least metal, leaning", "least metal, leaning with the hole", "the least of all; the hole stays crooked"),
    Practice("odd_cylinder", "goes with all", "all go to the size the worst needs", "one size, one set of pistons, one balance"),
    Practice("odd_cylinder", "is sleeved", "the odd one is sleeved", "keeps metal and rebuilds in the rest"),
    Practice("odd_cylinder", "own size", "the odd one gets its own size", "least metal; odd pistons weigh and cost apart"),
    Practice("finish", "rk family", "the Rk family", "two walls of the same Ra can be nothing alike: peaks, core and valleys tell them apart"),
    Practice("finish", "ra and rz", "Ra and Rz only", "what older sheets and pocket testers have; it says nothing of valleys"),
    Practice("wear_side", "all on one side", "all on one side", "takes nothing on trust: the high end decides"),
)  # fmt: skip

SHOP_DEFAULT = {
    "clearance": "piston sheet", "honing": "two steps", "wear_side": "usual share", "hone_allowance": "stones",
    "axis": "unworn bottom", "odd_cylinder": "goes with all", "finish": "rk family",
}  # fmt: skip


def shop_practices(figures: Figures) -> dict[str, str]:
    """The shop's own way in every topic, as its figures say; a word that is no practice is the shipped default."""
    found = {}
    for topic, usual in SHOP_DEFAULT.items():
        word = figures.word(f"practices.{topic}")
        found[topic] = word if any(p.name == word for p in options(topic)) else usual
    return found


def options(topic: str) -> tuple[Practice, ...]:
    """The practices of a topic, in the order they are offered."""
    return tuple(p for p in PRACTICES if p.topic == topic)


def practice(topic: str, name: str) -> Practice:
    """One practice; the shop's default where the name is not known (a newer program may have written it)."""
    found = {p.name: p for p in options(topic)}
    return found.get(name) or found[SHOP_DEFAULT[topic]]
