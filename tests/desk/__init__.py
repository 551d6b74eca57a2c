"""The use cases without a window."""
