"""Labels never lie on one another: the placer by itself on random pictures, and every picture of every sample job by geometry."""

import random
import re
from dataclasses import replace

import pytest

from redline_bore.ui.paint.picture import Picture
from redline_bore.ui.paint.placer import Words, placed

INNER = re.compile(r"\b[A-Z]\w*\.[A-Z_]{2,}\b|\b[a-z]+_[a-z_]+\b|<[A-Z]\w+")  # names that only the program knows
FIGURES = ("+0.105", "0.0031 in", "12", "3.7 h", "105.214", "−0.5")
WORDS = (
    "may keep a shadow",
    "bored about the unworn bottom of the hole",
    "thrust",
    "not read",
    "top ring stops",
    "wall to",
)


def wide(text, size, bold):
    return len(text) * size * (0.56 if bold else 0.5)


def item(text, left, middle, size=12.0, anchor=-1):
    w = wide(text, size, False)
    return Words(text, left - w * (anchor + 1) / 2.0, middle, w, 9.0 * size / 12.0, size, False, "ink", anchor)


def overlaps(items):
    return [(a.text, b.text) for i, a in enumerate(items) for b in items[i + 1 :] if a.on(b)]


@pytest.mark.parametrize("seed", range(200))
def test_on_random_pictures_no_words_lie_on_words_and_no_figure_is_lost_or_cut(seed):
    r = random.Random(seed)
    texts = [r.choice(FIGURES) if r.random() < 0.4 else r.choice(WORDS) for _ in range(r.randint(5, 60))]
    items = [
        item(t, r.uniform(0, 900), r.uniform(0, 600), r.choice((12.0, 14.0, 17.0)), r.choice((-1, 0, 1))) for t in texts
    ]
    found = placed(items, wide)
    figures = [w for w in found if w.is_figure]
    for a, b in overlaps([w for w in found if not w.is_figure]):
        raise AssertionError(f"{a} on {b}")
    assert not [1 for f in figures for w in found if not w.is_figure and w.on(f)]
    kept = [w.text for w in figures]
    there = [w for w in items if w.is_figure]
    lost = [w for w in there if w.text not in kept]
    assert not lost  # none is cut; of two alike at one place, one is enough


def test_what_stands_free_stays_and_words_are_cut_before_the_figure_they_run_into():
    row, value = item("Bore and hone to size, own pistons", 0, 10), item("0.043", 100, 11)
    found = placed([row, value], wide)
    assert found[1] == value and found[0].text == "Bore and hone …" and found[0].left == 0
    apart = [item("left", 0, 10), item("right", 300, 10)]
    assert placed(apart, wide) == apart


def test_a_figure_moves_a_little_or_is_smaller_and_never_goes():
    first, second = item("+0.0031", 0, 10, 14.0), item("+0.0060", 3, 16, 14.0)
    found = placed([first, second], wide)
    assert len(found) == 2 and not overlaps(found)
    same = placed([first, replace(first, left=2)], wide)
    assert len(same) == 1
    walled = [item("1", x, y) for x in range(0, 40, 6) for y in range(0, 60, 8)]
    assert item("+0.0031", 10, 20) in placed([*walled, item("+0.0031", 10, 20)], wide)  # even without room


def test_words_at_the_right_keep_their_right_edge_when_cut():
    found = placed([item("2.5", 0, 10), item("a long remark beside it here", 120, 10, anchor=1)], wide)
    assert found[1].right == pytest.approx(120) and found[1].text.endswith("…")


@pytest.mark.parametrize("number", ["2029", "2036", "2041", "2044", "2047"])
@pytest.mark.parametrize("size, scale", [((1280, 800), 1.0), ((1100, 700), 1.0), ((1280, 800), 1.4)])
def test_no_label_of_any_picture_lies_on_another(bench_on, number, size, scale):
    bench = bench_on(number)
    bench.window.resize(*size)
    bench.window.theme.set_scale(scale)
    for step in bench.session.steps:
        bench.go(step)
        for page in getattr(bench.window.step, "titles", {"": ""}):
            if page:
                bench.session.set_page(page)
            bench.settle()
            for picture in bench.window.findChildren(Picture):
                if picture.isVisible():
                    picture.grab()
                    assert overlaps(picture.words) == [], (step, page, picture.accessibleName())
                    inner = [w.text for w in picture.words if INNER.search(w.text)]
                    assert inner == [], (step, page, picture.accessibleName())
