"""The sample jobs: all made up, from seeded true walls, so that the truth is known and can be compared with."""
