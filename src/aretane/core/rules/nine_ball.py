"""Nine-ball. World Pool-Billiard Association, The Rules of Play, section 2: no call, the nine wins at any time."""

from aretane.core.rules.rotation import Rotation

NINE_BALL = Rotation("nine-ball", "9")
