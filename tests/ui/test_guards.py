"""The guards of the set-up see what they are there for."""

import os
import threading

from redline_bore.instruments.port import Instrument
from tests.ui.conftest import left_running


def test_an_instrument_that_was_not_let_go_is_named():
    before = set(threading.enumerate())
    master, slave = os.openpty()
    port = os.ttyname(slave)
    instrument = Instrument(port, lambda event: None)
    try:
        assert left_running(before) == [f"instrument {port}"]
    finally:
        instrument.close()
        os.close(master)
        os.close(slave)
    assert left_running(before) == []


def test_any_thread_left_running_is_named():
    before, go = set(threading.enumerate()), threading.Event()
    thread = threading.Thread(target=go.wait, name="forgotten")
    thread.start()
    assert left_running(before) == ["forgotten"]
    go.set()
    thread.join()
