"""What may be typed at each step, turned into entries."""
