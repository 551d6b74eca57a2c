"""A label that a screen reader hears whole: what it is, and what it says."""

from __future__ import annotations

import re

from PyQt6.QtWidgets import QLabel

from redline_bore.core.written import shown_html


class ToldLabel(QLabel):
    """A label with a name. Its accessible name is the name and the text, without the marks of rich text; Qt tells
    a reader of every change of it."""

    def __init__(self, name: str, text: str = "") -> None:
        super().__init__(text)
        self.name = name
        self._tell()

    def setText(self, text: str | None) -> None:
        told = shown_html(text or "")
        if told != self.text():  # laying a card out again takes longer than looking
            super().setText(told)
            self._tell()

    def _tell(self) -> None:
        plain = re.sub(r"\s+", " ", re.sub(r"<[^>]*>", " ", self.text())).strip()
        said = plain.removeprefix(self.name).lstrip(": ")  # where it begins with what it is, that is told once
        self.setAccessibleName(f"{self.name}: {said}" if said else self.name)
