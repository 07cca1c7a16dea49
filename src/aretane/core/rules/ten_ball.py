"""Ten-ball. World Pool-Billiard Association, The Rules of Play, section 9.

Every shot is called, the ten on the break is spotted. A called ten wins at any time (9.5, from memory); the
option `money_ball_early` spots it instead.
"""

from aretane.core.rules.rotation import Rotation

TEN_BALL = Rotation("ten-ball", "10")
