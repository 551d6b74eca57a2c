"""The reference traces: where they lie, what was found in them, and within what."""

import json
import math
from functools import lru_cache
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent / "texture"


@lru_cache
def document(name: str) -> dict[str, Any]:
    found: dict[str, Any] = json.loads((HERE / f"{name}.json").read_text())
    return found


def traces(outcome: str, *documents: str) -> list[Any]:
    """(file name, its case, tolerances) of every trace of the documents that ends in ``outcome``."""
    import pytest

    found = [
        pytest.param(HERE / name, case, d["tolerances"] | case.get("tolerance_override", {}), id=name)
        for d in map(document, documents)
        for name, case in d["traces"].items()
        if case["outcome"] == outcome
    ]
    assert found
    return found


def close(name: str, got: float | None, want: float | None, allowed: dict[str, float]) -> None:
    """Within either tolerance; None exactly."""
    if want is None or got is None:
        assert got is None and want is None, f"{name}: {got} is not {want}"
        return
    room = max(allowed.get("abs", 0.0), allowed.get("rel_pct", 0.0) / 100.0 * abs(want))
    assert math.isfinite(got) and abs(got - want) <= room, f"{name}: {got} is not {want} within {room}"
