"""Aretane: review of recorded pool and snooker, measured from the picture of the table."""

__version__ = "0.1.0"
