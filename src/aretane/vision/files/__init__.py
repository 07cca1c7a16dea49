"""Recordings as files: opened, probed, decoded, converted."""
