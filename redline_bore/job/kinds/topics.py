"""What an entry changes, as views listen for it."""

from __future__ import annotations

from enum import StrEnum


class Topic(StrEnum):
    """One word for what changed."""

    BOOK_IN = "book_in"
    PLAN = "plan"
    GAUGE = "gauge"
    READINGS = "readings"
    PLATE = "plate"
    OPINIONS = "opinions"
    STUDY = "study"
    TEMPERATURE = "temperature"
    PRACTICE = "practice"
    PISTONS = "pistons"
    DECISION = "decision"
    BORE = "bore"
    SLEEVE = "sleeve"
    CHECKS = "checks"
    FINISH = "finish"
    SIGN_OFF = "sign_off"
    STAMPS = "stamps"
    ALL = "all"  # entries were struck or restored: anything may have changed


LEDGER = frozenset(Topic) - {Topic.ALL}
