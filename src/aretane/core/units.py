"""Lengths of the trade in metres. Used at the edges only: inside everything is metres and radians."""

INCH = 0.0254
FOOT = 12 * INCH

DIAMONDS_ALONG = 8  # the long rail is divided in eight, the short rail in four (common practice)
DIAMONDS_ACROSS = 4
SIGHT_FROM_NOSE = 3.6875 * INCH  # 3 11/16 in (World Pool-Billiard Association, Equipment Specifications)
