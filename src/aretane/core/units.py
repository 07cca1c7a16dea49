"""Lengths and angles of the trade. Used at the edges only: inside everything is metres and radians."""

import math

INCH = 0.0254
FOOT = 12 * INCH
CENTIMETRE = 0.01
MILE_PER_HOUR = 0.44704

DIAMONDS_ALONG = 8  # the long rail is divided in eight, the short rail in four (common practice)
DIAMONDS_ACROSS = 4


def degrees(radians: float) -> float:
    """Radians to degrees."""
    return math.degrees(radians)


def diamond_place(along: float, across: float, length: float, width: float) -> tuple[float, float]:
    """The place (metres) of two diamond figures counted from the head-right corner."""
    return along * length / DIAMONDS_ALONG, across * width / DIAMONDS_ACROSS
