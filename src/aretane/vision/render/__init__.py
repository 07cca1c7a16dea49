"""Synthetic recordings: a room, a table, balls, people and what is drawn over them, as a phone would film it."""
