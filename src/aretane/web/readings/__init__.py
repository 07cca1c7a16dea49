"""Readings of recordings: the routes, and what they take and answer."""
