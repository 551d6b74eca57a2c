"""What the hone step knows: where a cylinder stands, set-up, simulator, steps, load, stock."""
