"""Gauges and their simulated stand-ins: one plain line protocol over a serial port (docs/instruments.md)."""
