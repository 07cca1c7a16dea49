"""The one compiled entry point: many strokes on one layout."""

from __future__ import annotations

from aretane.core.physics.chance import begin
from aretane.core.physics.compiled import (
    DROP, FEATURE, OFF, PHASE, POTTED, X, Y, Floats, Ints, entry,
)  # fmt: skip
from aretane.core.physics.cue import strike
from aretane.core.physics.engine import lay_out, run

AIM, SPEED, SIDE, HEIGHT, ELEVATION = range(5)  # columns of a stroke

EVENT_CAP = 10_000  # of one shot
ON_TABLE, OFF_THE_TABLE = -1, 6  # fates of a ball besides the pocket, 0 to 5, that it fell into

_F2, _I2 = "float64[:,::1]", "int64[:,::1]"


@entry(
    f"void({_F2}, {_I2}, float64[::1], float64, float64[::1], {_F2}, {_F2}, {_F2}, int64[::1], {_F2}, {_I2},"
    f" {_F2}, {_F2}, int64, float64[:,:,::1], {_I2}, {_I2}, float64[::1])"
)
def play(
    start: Floats, state: Ints, p: Floats, end_mass_ratio: float, size: Floats, jaws: Floats, pockets: Floats,
    strokes: Floats, lucks: Ints, b: Floats, k: Ints, meet: Floats, rows: Floats, cap: int,
    places: Floats, fates: Ints, results: Ints, durations: Floats,
) -> None:  # fmt: skip
    """Play each of `strokes` (n x 5) from the same start, each with its luck (n; 0: a table without chance).

    `b`, `k`, `meet` are one thread's workspace. Filled: `places` (n x balls x 2), `fates` (n x balls), `results`
    (n x RESULTS), `durations` (n). `rows`, unless empty, takes the course of the last stroke.
    """
    n = start.shape[0]
    p = p.copy()  # holds what chance draws for one shot
    for s in range(strokes.shape[0]):
        lay_out(b, k, start, state)
        begin(p, lucks[s])
        strike(
            b, k, p, strokes[s, AIM], strokes[s, SPEED], strokes[s, SIDE], strokes[s, HEIGHT],
            strokes[s, ELEVATION], end_mass_ratio,
        )  # fmt: skip
        durations[s] = run(b, k, p, size, jaws, pockets, meet, results[s], rows, cap)
        for i in range(n):
            places[s, i, 0] = b[i, X]
            places[s, i, 1] = b[i, Y]
            fate = ON_TABLE
            if k[i, PHASE] == POTTED or k[i, PHASE] == DROP:
                fate = k[i, FEATURE]
            elif k[i, PHASE] == OFF:
                fate = OFF_THE_TABLE
            fates[s, i] = fate
