"""Where the words of a picture stand, so that none lies on another: figures keep their place, words give way.

A pencil that places keeps its texts until the picture is drawn; then each is held against those that stand near it. A figure goes before
words, the shorter before the longer. What gives way is cut to whole words where it runs into its neighbour, or stands a little higher or
lower, or smaller; what then has no room, and is no figure, is left out.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

from redline_bore.core.frozen import frozen, replace

LEAST_PX = 12.0  # at 100 %: no smaller type
TOUCH_PX = 1.0  # so much may two boxes share before they are said to lie on one another
MOVES = (0.5, -0.5, 0.8, -0.8, 1.0, -1.0)  # of the height, up and down


@frozen(often=True)
class Words:
    """A text and its box, pixels: left edge, middle of the height, width and height of what is drawn. size: px at 100 %; anchor: -1 its left
    edge stays, 0 its middle, 1 its right edge."""

    text: str
    left: float
    middle: float
    wide: float
    high: float
    size: float
    bold: bool
    colour: str
    anchor: int = -1

    @property
    def right(self) -> float:
        """Its right edge."""
        return self.left + self.wide

    @property
    def is_figure(self) -> bool:
        """A figure with its unit at most: it says how much, and is never cut."""
        return any(c.isdigit() for c in self.text) and len(self.text.split()) <= 2

    @property
    def rank(self) -> tuple[bool, int]:
        """What goes first: figures, then the shorter."""
        return (not self.is_figure, len(self.text))

    def on(self, other: Words) -> bool:
        """Whether it lies on another."""
        across = min(self.right, other.right) - max(self.left, other.left)
        down = (self.high + other.high) / 2.0 - abs(self.middle - other.middle)
        return across > TOUCH_PX and down > TOUCH_PX


Measure = Callable[[str, float, bool], float]  # the width of a text at a size, pixels


def placed(items: Sequence[Words], measure: Measure) -> list[Words]:
    """The texts where they can stand, in the order they were drawn; those without room are left out."""
    stand: list[tuple[int, Words]] = []
    for at in sorted(range(len(items)), key=lambda i: items[i].rank):
        found = _with_room(items[at], [w for _, w in stand], measure)
        if found is not None:
            stand.append((at, found))
    return [w for _, w in sorted(stand, key=lambda s: s[0])]


def _with_room(item: Words, others: Sequence[Words], measure: Measure) -> Words | None:
    near = [o for o in others if abs(o.middle - item.middle) < 2.0 * (o.high + item.high)]
    if not any(item.on(o) for o in near):
        return item
    if any(o.text == item.text and item.on(o) for o in near):
        return None  # the same twice at one place says it once
    tries = [*_cut(item, [o for o in near if item.on(o)], measure), *_moved(item), *_smaller(item, measure)]
    return next((t for t in tries if not any(t.on(o) for o in near)), item if item.is_figure else None)


def _cut(item: Words, at: Sequence[Words], measure: Measure) -> list[Words]:
    """Cut to whole words before what it runs into; figures are not cut."""
    if item.is_figure:
        return []
    if item.anchor < 0:
        room = min(o.left for o in at) - item.left - 4.0
    elif item.anchor > 0:
        room = item.right - max(o.right for o in at) - 4.0
    else:
        return []
    words = item.text.split(" ")
    while len(words) > 1:
        words.pop()
        text = " ".join(words).rstrip(",;:") + " …"
        wide = measure(text, item.size, item.bold)
        if wide <= room:
            left = item.left if item.anchor < 0 else item.right - wide
            return [replace(item, text=text, wide=wide, left=left)]
    return []


def _moved(item: Words) -> list[Words]:
    return [replace(item, middle=item.middle + item.high * m) for m in MOVES]


def _smaller(item: Words, measure: Measure) -> list[Words]:
    """Smaller type, a step at a time."""
    found, size = [], item.size
    while size - 1.0 >= LEAST_PX:
        size -= 1.0
        wide = measure(item.text, size, item.bold)
        left = item.left + (item.wide - wide) * (item.anchor + 1) / 2.0
        found.append(replace(item, size=size, wide=wide, left=left, high=item.high * size / item.size))
    return found
