"""What can be asked of figures: every measure with what it counts, and everything it is told apart by."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.statistics.squares import square_words

RATE, MEAN, SHARE = "rate", "mean", "share"
NOTHING, DAY, SESSION = "nothing", "day", "session"
SQUARES = ("lay", "stopped")  # told apart by the squares of the table: drawn on it
MOUTH = "mouth"  # told apart by where the pocket was reached: drawn across it
ESTIMATES = ("likely", "felt", "computed")  # told apart by a chance: held against what happened


@dataclass(frozen=True)
class Measure:
    """One thing that can be asked. `what` it counts, `of` what; a share is how much of all each field is. `unit` of
    a mean; `better`: more of it is good (None: neither); `fair`: players can be compared on the same shots;
    `expects`: by whose word there is something to hold it against ('' nobody's).
    """

    name: str
    words: str
    what: str
    of: str
    kind: str = RATE
    unit: str = ""
    better: bool | None = True
    fair: bool = False
    expects: str = ""


_ATTACKS, _JUDGED = "visits that began with an attack", "judged strokes"
_SAFE = "lawful safeties answered"

MEASURES = {
    one.name: one
    for one in (
        Measure("pots", "pots made", "made", "tries", fair=True, expects="a league hand on these shots"),
        Measure("mix", "which shots were tried", "tried", "tries", SHARE, better=None),
        Measure("nearly", "nearly certain pots made", "made", "tries that a league hand makes nine times in ten"),
        Measure("thick", "misses that were thick", "thick", "misses told thick or thin", better=None),
        Measure("recovered", "pots made after the zone was missed", "made", "tries from outside the zone"),
        Measure("zone", "stops in the zone", "inside the acceptable zone", "stops with a zone"),
        Measure("off", "distance from the zone", "off", "stops with a zone", MEAN, "m", False),
        Measure("along", "long or short of the zone", "long", "stops with a last leg", MEAN, "m", None),
        Measure("across", "left or right of the zone", "left", "stops with a last leg", MEAN, "m", None),
        Measure("travel", "way of the cue ball", "run", "strokes with both layouts", MEAN, "m", None),
        Measure("safeties", "safeties that held", "not attacked", _SAFE),
        Measure("hidden", "safeties that hid every ball on", "hidden", "lawful safeties with a layout after"),
        Measure("drew", "safeties that drew a foul", "fouled", _SAFE),
        Measure("away", "how far safeties left the white", "to the nearest ball on", _SAFE, MEAN, "m"),
        Measure("exchanges", "safety exchanges won", "won", "exchanges begun"),
        Measure("escapes", "escapes that hit", "hit", "escapes"),
        Measure("chances", "open chances brought home", "converted", _ATTACKS),
        Measure("cleared", "run-outs from the first open chance", "run out", "first open chances of a rack"),
        Measure(
            "fulfilled",
            "racks won after an open chance",
            "won",
            _ATTACKS,
            expects="the ledger before the visit",
        ),
        Measure("scored", "balls or points a visit", "a visit", "visits", MEAN),
        Measure("tens", "visits of ten and more", "of ten and more", "visits"),
        Measure("fifties", "visits of fifty and more", "of fifty and more", "visits"),
        Measure("hundreds", "visits of a hundred and more", "of a hundred and more", "visits"),
        Measure("broke", "racks won on the own break", "won", "breaks of decided racks"),
        Measure("dry", "breaks without a ball", "dry", "breaks", better=False),
        Measure("broken", "balls on the break", "a break", "breaks", MEAN),
        Measure("fouls", "strokes that were fouls", "fouls", "strokes", better=False),
        Measure("lost", "strokes that lost the cue ball", "lost", "strokes", better=False),
        Measure("time", "time for a shot", "from contact to contact", "strokes within a visit", MEAN, "s", None),
        Measure("decision", "what decisions cost", "by decisions", _JUDGED, MEAN, "points"),
        Measure("potting", "what potting brought", "by potting", _JUDGED, MEAN, "points"),
        Measure("position", "what position brought", "by position", _JUDGED, MEAN, "points"),
        Measure("luck", "what luck brought", "by luck", _JUDGED, MEAN, "points", None),
    )
}

GROUPS = {  # as a page lists them
    "potting": ("pots", "mix", "nearly", "thick", "recovered"),
    "position": ("zone", "off", "along", "across", "travel"),
    "safety": ("safeties", "hidden", "drew", "away", "exchanges", "escapes"),
    "chances and visits": ("chances", "cleared", "fulfilled", "scored", "tens", "fifties", "hundreds"),
    "breaks": ("broke", "dry", "broken"),
    "strokes": ("fouls", "lost", "time"),
    "the ledger": ("decision", "potting", "position", "luck"),
}
BY = {
    NOTHING: "all together", "player": "player", "opponent": "opponent", "cut": "cut angle", "way": "distance",
    "likely": "chance of a league hand", "felt": "chance that was felt", "computed": "chance that was computed",
    "pocket": "pocket", MOUTH: "where it reached the pocket", "kind": "kind of shot",
    "tip": "follow, stun, draw", "pace": "pace",
    "rails": "rails of the cue ball", "reach": "reach", "cueing": "under the cue",
    "missed_band": "where the stroke before left it", "off_band": "where it stopped", "lay": "where the white lay",
    "stopped": "where the white stopped", "phase": "phase of the rack", "waited": "after a wait",
    "standing": "score in racks", "stake": "what was at stake", "took": "whether the rack was won",
    "month": "month", DAY: "day", SESSION: "kind of session", "discipline": "game", "played_at": "table",
    "game_id": "match", "intent_source": "whose intention", "foul": "kind of foul",
}  # fmt: skip

LONGEST_WAY = 3.5  # m of both balls' ways together: longer ones are not told apart
TENTHS = 10  # fields of a chance
_BANDS = ("in its zone", "up to 10 cm off", "10 to 20 cm off", "20 to 40 cm off", "more than 40 cm off")
_TOLD = {
    MOUTH: {"thick": "thick side of the pocket", "thin": "thin side of the pocket"},
    "rails": {"0": "no rail", "1": "one rail", "2": "two rails", "3": "three rails and more"},
    "waited": {"1": "first stroke of a visit", "0": "within a visit"},
    "stake": {"1": "could end the match", "0": "more racks to come"},
    "took": {"1": "racks won", "0": "racks lost"},
    **{name: {str(at): words for at, words in enumerate(_BANDS)} for name in ("missed_band", "off_band")},
}
ORDER = {word: at for at, word in enumerate(
    ("draw", "stun", "follow", "soft", "medium", "firm", "behind", "level", "ahead", "opening", "pattern",
     "recovery", "end", "missed thick", "thick", "middle", "thin", "missed thin", "in the jaws", "comfortable",
     "stretched", "off hand", "rest", "free", "off the rail", "over a ball")
)}  # fmt: skip


def key_words(by: str, key: str) -> str:
    """A field of the answer as a coach says it."""
    if by == "cut":
        return f"{int(key) * 15} to {int(key) * 15 + 15} degrees"
    if by == "way":
        low = int(key) * 0.5
        return f"{low:g} m and more" if low >= LONGEST_WAY else f"{low:g} to {low + 0.5:g} m"
    if by in ESTIMATES:
        return f"{int(key) * TENTHS} to {int(key) * TENTHS + TENTHS} %"
    if by in SQUARES:
        return square_words(int(key))
    if by in _TOLD:
        return _TOLD[by].get(key, key)
    return key.replace("-", " ") if by not in ("month", DAY, "player", "opponent", "game_id") else key
