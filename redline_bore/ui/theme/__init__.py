"""Colours, type and scale."""
