"""What the gauge step knows: readings, shape, doubt, plate, defects, other people's readings."""
