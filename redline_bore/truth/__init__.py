"""True blocks and true tools, known exactly: what the sample jobs, the simulated instruments and the loop measure and cut. Seeded; their
physics is not the core's own with other numbers."""
