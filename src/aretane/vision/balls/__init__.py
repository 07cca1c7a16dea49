"""Balls in a picture: found, told apart, named by what is seen."""
