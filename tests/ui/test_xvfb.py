"""Once on a real X server: the program as it is started, typed into by xdotool, killed, and looked up."""

import os
import subprocess
import sys
import time

from redline_bore.store.logbook import Logbook


def test_a_reading_typed_on_a_real_display_is_kept(display, demo_path):
    env = {k: v for k, v in os.environ.items() if k != "QT_QPA_PLATFORM"} | {"DISPLAY": display}
    program = subprocess.Popen(
        [sys.executable, "-m", "redline_bore", "--logbook", str(demo_path), "--job", "2047"],
        env=env,
        stderr=subprocess.PIPE,
    )

    def xdo(*words):
        return subprocess.run(["xdotool", *words], env=env, capture_output=True, text=True)

    try:
        deadline = time.monotonic() + 40
        while not (window := xdo("search", "--onlyvisible", "--name", "Redline Bore").stdout.split()):
            assert time.monotonic() < deadline and program.poll() is None, (
                program.stderr.read().decode() if program.poll() is not None else "no window"
            )
            time.sleep(0.1)
        xdo("windowactivate", "--sync", window[0])
        time.sleep(1.0)
        place = dict(line.split("=") for line in xdo("getwindowgeometry", "--shell", window[0]).stdout.split())
        assert int(place["HEIGHT"]) <= 780  # the screen is 800 high, and the desktop puts a title over it
        xdo("type", "--delay", "30", "78.013")
        xdo("key", "Return")
        book = Logbook(demo_path)
        job = book.job_id("2047")
        while not (kept := [r for r in book.ledger(job) if r.typed == "78.013"]):
            assert time.monotonic() < deadline, "the reading was not booked"
            time.sleep(0.1)
        assert kept[0].entry.diameter_mm == 78.013
        book.close()
        xdo("key", "ctrl+q")
        assert program.wait(timeout=20) == 0
    finally:
        program.kill()
        program.wait()
        program.stderr.close()
