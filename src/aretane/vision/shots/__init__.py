"""Shots in a recording: what stands and leaves, names over a rack, the coach's corrections."""
