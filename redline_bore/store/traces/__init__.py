"""Traces in and out: text in columns, X3P (ISO 5436-2, ISO 25178-72) and SDF text (ISO 25178-71)."""
