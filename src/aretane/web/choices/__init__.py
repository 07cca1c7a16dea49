"""Choices, hands, and what was felt: the routes, and what they take and answer."""
