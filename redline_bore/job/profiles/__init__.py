"""What a duty, a purpose, a kind of wall and a named practice mean, read from ``profiles.json`` in one place."""
