"""Endurance: several benches on one logbook at once, and one bench for an hour; counted, not felt."""
