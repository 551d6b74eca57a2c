"""Prints resident memory in MB: of the program with every step looked at, or of a bare window without arguments."""

import os
import sys
from pathlib import Path

import numpy  # noqa: F401
from PyQt6.QtWidgets import QApplication, QMainWindow


def resident_mb() -> float:
    for line in Path("/proc/self/status").read_text().splitlines():
        if line.startswith("VmRSS"):
            return int(line.split()[1]) / 1024.0
    raise RuntimeError("no VmRSS here")


if len(sys.argv) > 1:
    from PyQt6.QtCore import QSettings

    from redline_bore.app import application, build_window, warm_up

    app = application()
    window: QMainWindow = build_window(
        Path(sys.argv[1]), "2041", QSettings(sys.argv[1] + ".ini", QSettings.Format.IniFormat)
    )
    window.show()
    warm_up(window)
    for step in ("book_in", "gauge", "call", "bore", "hone", "sign_off", "gauge"):
        window.session.go(step)
        while window.runner._tokens:
            app.processEvents()
        app.processEvents()
else:
    app = QApplication(sys.argv)
    window = QMainWindow()
    window.show()
    app.processEvents()
print(resident_mb(), flush=True)
os._exit(0)
