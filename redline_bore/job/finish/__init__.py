"""What the finish step knows: traces judged, the plateau foretold, crosshatch."""
