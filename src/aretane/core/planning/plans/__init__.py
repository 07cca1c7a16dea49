"""Plans for the rest of a rack, and what stands in their way."""
