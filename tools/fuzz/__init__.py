"""Fuzzing of everything that reads what comes from outside."""
