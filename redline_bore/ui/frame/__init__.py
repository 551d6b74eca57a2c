"""The fixed parts of the window: route strip, block plan, call card, gauge line, and the panels over the work."""
