"""Shots asked as questions: the routes, and what they take and answer."""
