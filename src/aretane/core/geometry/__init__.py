"""Closed-form geometry of a shot: one idea per module, each formula with its source."""
