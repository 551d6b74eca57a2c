"""Computation only: NumPy, SciPy and the standard library. No Qt, no files, no clock, no globals."""
