"""How the kernels are compiled, and the arrays that they share.

Every kernel is compiled once per version of this folder and kept on disk; the entry points carry explicit
signatures, so that no argument type can set off a compilation while somebody waits.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

import numpy as np
import numpy.typing as npt
from numba import njit

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]
F = TypeVar("F", bound=Callable[..., Any])

_OPTIONS: dict[str, Any] = {"cache": True, "nogil": True, "error_model": "numpy"}
# With numba's runtime a kernel counts references to the arrays that it is given, and two threads that count them
# together wait for one another, a third of all the time. It is needed to make arrays, and for nothing else.
_MAKES_NONE: dict[str, Any] = {**_OPTIONS, "_nrt": False}
_MAKES_ARRAYS: dict[str, Any] = {**_OPTIONS, "_nrt": True}


def kernel(function: F) -> F:
    """A helper that is compiled into its callers; it makes no array."""
    compiled: F = njit(**_MAKES_NONE)(function)
    return compiled


def allocating(function: F) -> F:
    """A helper that makes arrays of its own."""
    compiled: F = njit(**_MAKES_ARRAYS)(function)
    return compiled


def inlined(function: F) -> F:
    """A helper of the inner loop: a call with its many array arguments would cost more than its work."""
    compiled: Any = njit(forceinline=True, **_MAKES_NONE)(function)
    return compiled  # type: ignore[no-any-return]


def entry(signature: str) -> Callable[[F], F]:
    """An entry point: compiled, or loaded, when its module is imported."""

    def compile_now(function: F) -> F:
        compiled: Any = njit(signature, **_MAKES_ARRAYS)(function)
        return compiled  # type: ignore[no-any-return]

    return compile_now


# Columns of a ball's row of numbers. Place, velocity and angular velocity hold at time `T0`; the
# acceleration is constant until `TEND`, when the ball's own next event (a phase ends, a rail, a pocket) is
# due. The box bounds its path until then. `RHO` is how near its centre comes to a cushion's nose.
X, Y, Z, VX, VY, VZ, WX, WY, WZ, AX, AY, AZ = range(12)
T0, TEND, BOX_LOW_X, BOX_HIGH_X, BOX_LOW_Y, BOX_HIGH_Y, RADIUS, MASS, RHO, NEAR_T = range(12, 22)
DRAWN = 22  # how many chance errors the ball has met in this shot, see `chance`
BALL_COLUMNS = 23

# Columns of a ball's row of integers: its phase, its own next event, the pocket, jaw or rail that this event
# is about, the ball that it meets next, and the rail that it stood frozen to before the shot (-1: none).
PHASE, OWN, FEATURE, NEAR, FROZEN = range(5)
BALL_INTEGERS = 5

REST, SLIDE, ROLL, AIR, DROP, POTTED, OFF = range(7)  # phases; the last two are final

# Kinds of events, and of a ball's own next event.
PHASE_END, RAIL, JAW_TIP, FACING, DROP_EDGE, SPIT_OUT, CAPTURE, REPLAN, CONTACT, LANDING, STROKE = range(11)

# The vector of physical parameters, in the order of `parameters.Physics`.
(
    P_SLIDE,
    P_ROLL,
    P_SPIN,
    P_BALL_RESTITUTION,
    P_FRICTION_FLOOR,
    P_FRICTION_SPAN,
    P_FRICTION_DECAY,
    P_RAIL_RESTITUTION,
    P_RAIL_SOFTENING,
    P_RAIL_FRICTION,
    P_BED_RESTITUTION,
    P_CAPTURE_DEPTH,
    P_RAIL_SCATTER,
    P_RAIL_TURN,
    P_THROW_SCATTER,
    P_CLING_CHANCE,
    P_CLING_GAIN,
    P_TILT,
) = range(18)
# What chance has drawn for the shot that is being played: its number (0: no chance), and how the bed tilts.
P_LUCK, P_TILT_X, P_TILT_Y = range(18, 21)

# The table as numbers: see `table_shape`.
S_LENGTH, S_WIDTH, S_NOSE, S_CORNER_END, S_SIDE_END = range(5)
ARC_X, ARC_Y, ARC_R, MID_X, MID_Y, MID_COS, FACE_X, FACE_Y, FACE_NX, FACE_NY, FACE_DX, FACE_DY = range(12)
POCKET_MX, POCKET_MY, POCKET_AX, POCKET_AY, POCKET_SHELF, TIP_AX, TIP_AY, TIP_BX, TIP_BY = range(9)

# What one shot was, as integers: filled by `engine.run`.
R_CAPPED, R_EVENTS, R_FIRST, R_RAILS_AFTER, R_CUE_RAILS, R_ROWS, R_RAILED, R_KICKED = range(8)
RESULTS = 8

ROW = 16  # columns of the course of a shot, see `engine.run`

GRAVITY = 9.81  # m/s²
SLOW = 0.005  # m/s: a contact slower than this is treated as pushing, see `impact` and `cushion`
HOP = 0.05  # m/s: an upward speed below this (a hop of an eighth of a millimetre) stays on the bed
EDGE = 1e-9  # m: how far outside the cushion lines a ball still counts as on them
FAR = np.inf
