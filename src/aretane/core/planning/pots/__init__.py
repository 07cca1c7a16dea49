"""Many pots at once: strokes, chances, grids of places, zones."""
