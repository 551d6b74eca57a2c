"""Redline Bore: gauging, calling, honing and signing off cylinders, shown as distance to the redline."""

__version__ = "0.20.0"
