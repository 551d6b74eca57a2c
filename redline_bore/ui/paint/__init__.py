"""Shared drawing. Functions that paint a picture from plain data onto any painter: screen, SVG or paper."""
