"""What a person does at the gauge step, in the words of the tests."""

from PyQt6.QtCore import Qt

CTRL = Qt.KeyboardModifier.ControlModifier


def page(bench, name):
    bench.session.set_page(name)
    bench.settle()
    return bench.window.step.page


def connect(bench, key):
    bench.key(key, CTRL)
    bench.bot.waitUntil(lambda: "answers" in bench.said)


def press(bench, word="press"):
    """The gauge's own button, until what it sent has been heard."""
    bench.bot.wait(40)  # no hand presses twice while the contact still bounces
    before, said = len(bench.session.records), bench.said
    bench.window.line.tell("…", False)
    bench.window.instruments.gauge.tell_stand_in(word)
    bench.bot.waitUntil(lambda: bench.said != "…" or len(bench.session.records) > before)
    return said
