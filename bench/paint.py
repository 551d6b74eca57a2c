"""The start of the program on a logbook, up to its first paint."""

import os
import sys
from pathlib import Path

from PyQt6.QtCore import QSettings

from redline_bore.app import application, build_window

app = application()
window = build_window(Path(sys.argv[1]), "2041", QSettings(sys.argv[1] + ".ini", QSettings.Format.IniFormat))
window.show()
app.processEvents()
print("painted", flush=True)
os._exit(0)
