"""Whatever goes wrong in working out an advice: the card never shows that of another cylinder or of an older state."""

import pytest


class OnPurposeError(Exception):
    """Raised by the test."""


def _throws(_self):
    raise OnPurposeError("on purpose")


@pytest.mark.parametrize("step", ["gauge", "call", "bore", "hone", "finish", "sign_off"])
def test_an_advice_that_fails_leaves_nothing_of_the_one_before(bench_on, monkeypatch, step):
    bench = bench_on("2029")
    bench.go(step)
    before = bench.call
    monkeypatch.setattr(type(bench.window.step), "advice", _throws)
    bench.session.bench.cylinder = 2
    with pytest.raises(OnPurposeError):
        bench.window.refresh_words()
    assert "No advice could be worked out" in bench.call and bench.call != before
    assert not bench.window.card.button.isVisible() and any(
        "on purpose" in c for c in bench.window.card._advice.changes
    )


def test_three_checks_at_one_count_are_looks_at_one_size_and_no_fault(bench_on):
    bench = bench_on("2044")
    bench.go("hone")
    bench.session.select(2)
    for _ in range(3):
        bench.type("40 3.4976")
        bench.type("40 3.4976")  # where it was asked about
    bench.session.select(1)
    assert bench.call.startswith("The coarse step is done") and "no advice" not in bench.call
    bench.session.select(2)
    assert "strokes" in bench.call
