"""The pages of the gauge step: what was read, a slice, all cylinders, the plate, defects, other shops, the study."""
