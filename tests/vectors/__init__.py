"""Reading the reference cases and comparing with them."""

import json
import math
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent
IN = 25.4


def cases(section: str, *ops: str) -> list[Any]:
    import pytest

    path = next(HERE.glob(f"{section}_*.json"))
    found = [c for c in json.loads(path.read_text())["cases"] if c["op"] in ops]
    assert found, f"no cases for {ops} in {path.name}"
    return [pytest.param(c, id=c["id"]) for c in found]


def mm(case: dict, name: str, default: Any = None) -> Any:
    """An input length in mm, whichever unit the case is written in; lists keep their shape."""
    inputs = case["inputs"]
    if f"{name}_mm" in inputs:
        return inputs[f"{name}_mm"]
    if f"{name}_in" in inputs:
        return _scaled(inputs[f"{name}_in"], IN)
    return default


def _scaled(value: Any, factor: float) -> Any:
    return [_scaled(v, factor) for v in value] if isinstance(value, list) else value * factor


def check(case: dict, **found: Any) -> None:
    """Compare results, given in mm under the key's stem, with every expected figure that is named in ``found``."""
    unit = IN if case["inputs"].get("units") == "inch" else 1.0
    tolerance, expected = case["tolerance"], case["expected"]
    for stem, value in found.items():
        key = next(
            (
                k
                for k in (stem, f"{stem}_mm", f"{stem}_in", f"{stem}_mm_per_stroke", f"{stem}_in_per_stroke")
                if k in expected
            ),
            None,
        )
        assert key is not None, f"{stem} is not among {sorted(expected)}"
        scale = unit if "_in" in key and key != stem else 1.0
        _same(key, value, expected[key], tolerance["abs"].get(key), tolerance["rel"], scale)


def _same(key: str, got: Any, want: Any, absolute: float | None, relative: float, scale: float) -> None:
    if isinstance(want, list):
        assert len(got) == len(want), key
        for g, w in zip(got, want, strict=True):
            _same(key, g, w, absolute, relative, scale)
    elif isinstance(want, bool) or want is None or isinstance(want, str):
        assert got == want, f"{key}: {got} is not {want}"
    else:
        got = got / scale
        if key.startswith("long_axis"):
            got = want + (got - want + 90.0) % 180.0 - 90.0
        allowed = absolute if absolute is not None else relative * abs(want)
        assert math.isfinite(got) and abs(got - want) <= allowed, f"{key}: {got} is not {want} within {allowed}"
