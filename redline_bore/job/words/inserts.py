"""What an insert is fit for, and what makes its bar sing, in words."""

from __future__ import annotations

from redline_bore.core.cutting import Chatter, ChatterBy
from redline_bore.core.inserts import HowFar, InsertUse, Suits, SuitsWhy
from redline_bore.job.card import Mark, Said

USES = {InsertUse.THROUGH: "through", InsertUse.BLIND: "blind", InsertUse.SEAT: "seat", InsertUse.OFFSET: "off centre"}
HOW_FAR = {HowFar.YES: ("yes", Mark.SOUND), HowFar.CARE: ("care", Mark.LOOK), HowFar.NO: ("no", Mark.STOP)}
WHY = {
    SuitsWhy.MANY_EDGES: "many edges, the fastest to run out",
    SuitsWhy.FINE_MARKS: "fine marks; slow in a deep cut",
    SuitsWhy.STRONG_CORNER: "a strong corner that carries more feed",
    SuitsWhy.PUSHES_AWAY: "it pushes the bar away, and leaves its radius",
    SuitsWhy.SMALL_CORNER: "its small corner nears a flat bottom",
    SuitsWhy.LEAVES_ITS_RADIUS: "its corner leaves its radius at the bottom",
    SuitsWhy.LIGHT_AND_SQUARE: "light pressure, and it squares the step",
    SuitsWhy.STANDS_ON_RADIUS: "the sleeve would stand on its radius",
    SuitsWhy.PUSHES_ASIDE: "it pushes hard to one side",
    SuitsWhy.CHIPS: "chips where the cut comes and goes",
    SuitsWhy.STRONG_ON_AND_OFF: "strong where the cut comes and goes",
}
CHATTER = {
    ChatterBy.SLENDER: "it reaches {slender:.1f} times its thickness: a lower speed, or a thicker bar",
    ChatterBy.SLENDER_WITH_LARGE_NOSE: "it reaches {slender:.1f} times its thickness: a smaller nose, or a thicker bar",
    ChatterBy.RUBS: "a large nose fed so lightly rubs: more feed, or a smaller nose",
}


def suits_said(suits: Suits) -> Said:
    """A use, how far the insert suits it, and the mark of that."""
    word, mark = HOW_FAR[suits.how_far]
    return Said(f"{USES[suits.use]}: {word}", mark)


def chatter_words(chatter: Chatter | None) -> str:
    """Why the bar would sing; empty where nothing says so."""
    return "" if chatter is None else CHATTER[chatter.by].format(slender=chatter.slender)
