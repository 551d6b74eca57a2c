"""``make manual``: the manual in docs/manual, from the text that F1 shows and the pictures that ``make shots`` takes."""

from __future__ import annotations

import sys
from pathlib import Path

from redline_bore.job.state.job_state import STEP_TITLES
from redline_bore.ui.help.text import ASKED, help_of, shop_words
from redline_bore.ui.steps.declared import STEPS

DOCS = Path(__file__).parents[1] / "docs"
PICTURES = {
    "book_in": {"card": "book-in"}, "gauge": {"readings": "gauge", "slice": "slice", "plate": "plate", "defects": "defects", "second": "second-opinion"},
    "call": {"ladder": "call", "options": "call-options"}, "bore": {"cut": "bore"}, "sleeve": {"fit": "sleeve"},
    "hone": {"stock": "hone", "set_up": "hone-set-up", "plan": "hone-strokes-night"}, "finish": {"trace": "finish", "plateau": "finish-plateau"},
    "sign_off": {"sheet": "sign-off"},
}  # fmt: skip


HANDS = """## Whatever is on the screen

![Find](../screenshots/find.png)

**F** finds it by a word of the shop: pages, figures, what can be done, help, jobs; what is locked says why.

![A tag](../screenshots/tag.png)

A dotted figure, or **E**, is changed where it stands. The tag says what stood, what may be written (the rest is hatched), what it would change. Drag the
scale, turn the wheel, take steps with Up and Down. Alt+C goes for every cylinder where that can be.

![The jobs](../screenshots/jobs.png)

**Ctrl+J** shows the rack: what is done, what comes next, what waits, what is promised and what is late.

A tick means sure, a triangle means look here, hatching means that it must not be entered: rest on one, or hold a finger on it, and it says so. **Shift+F1** shows
the figures behind a page as a table.
"""


def chapter(step: str) -> str:
    """A step's chapter."""
    lines = [f"# {STEP_TITLES[step]}", ""]
    pages = STEPS[step].titles() or {next(iter(PICTURES[step])): ""}
    for page, title in pages.items():
        told = help_of(step, page)
        assert told is not None, f"no help of {step} {page}"
        if title:
            lines += [f"## {title}", ""]
        if picture := PICTURES.get(step, {}).get(page):
            lines += [f"![{title or STEP_TITLES[step]}](../screenshots/{picture}.png)", ""]
        for name, asked in ASKED.items():
            lines += [f"**{asked}.** {getattr(told, name)}", ""]
    return "\n".join(lines).rstrip() + "\n"


def chapters() -> dict[str, str]:
    """Every file of the manual, by its name."""
    found = {f"{step.replace('_', '-')}.md": chapter(step) for step in STEPS}
    words = "\n".join(f"- **{word}**: {meaning}" for word, meaning in shop_words().items())
    found["words.md"] = f"# Words of the shop\n\n{words}\n"
    listed = "\n".join(
        f"{i}. [{STEP_TITLES[step]}]({step.replace('_', '-')}.md)" for i, step in enumerate(STEPS, start=1)
    )
    found["README.md"] = (
        "# Manual\n\nThe same text stands in the program: F1 on every page, F finds it by a word. Made by `make manual`; change "
        f"`redline_bore/ui/help/*.toml` and not these files.\n\n{listed}\n\n[Words of the shop](words.md)\n\n{HANDS}"
    )
    return found


def main() -> int:
    """Write the manual."""
    folder = DOCS / "manual"
    folder.mkdir(exist_ok=True)
    for name, text in chapters().items():
        (folder / name).write_text(text, "utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
