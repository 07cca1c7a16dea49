"""Clips and voices: the routes, and what they take and answer."""
