"""Texture of the wall: traces, filters, parameters, the plateau forecast, crosshatch from a picture (methods 13-15)."""
