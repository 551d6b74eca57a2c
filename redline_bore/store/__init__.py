"""The logbook, exchange formats and reports."""
