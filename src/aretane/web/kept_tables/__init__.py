"""Kept tables: the routes, and what they take and answer."""
