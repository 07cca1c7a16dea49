"""Rates and their intervals, and the tables of figures built from shot facts."""
