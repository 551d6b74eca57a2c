"""The floor of the start: a bare main window with NumPy imported, painted once."""

import os
import sys

import numpy  # noqa: F401
from PyQt6.QtWidgets import QApplication, QMainWindow

app = QApplication(sys.argv)
window = QMainWindow()
window.resize(1280, 800)
window.show()
app.processEvents()
print("painted", flush=True)
os._exit(0)
