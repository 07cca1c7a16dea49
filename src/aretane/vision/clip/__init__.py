"""Moments of a recording as a small film of their own, with what is to be seen drawn and written into it."""
