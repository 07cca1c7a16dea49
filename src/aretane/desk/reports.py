"""Hand-outs: the report of a match for one player, and the set-up card of a shot, from kept facts and values."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

from aretane.core.ball import CUE
from aretane.core.errors import InputError, Refused
from aretane.core.geometry.card import card, in_centimetres, on_table
from aretane.core.geometry.zone import GOOD
from aretane.core.layout import Layout
from aretane.core.review.replay import Replay, replay
from aretane.core.review.to_practise import PRACTISE
from aretane.core.rules.traits import BALLS, traits_of
from aretane.core.statistics.match_sheet import sheets
from aretane.core.statistics.rates import Mean, Rate
from aretane.core.table import PRESETS
from aretane.core.words import RESULTS, TABLES, ball_words, pocket_words
from aretane.desk import ledger
from aretane.desk.house import House
from aretane.desk.moments import (
    PARTS,
    SURE,
    WORDS,
    amount,
    choice_lines,
    cost_of,
    cost_words,
    gain_of,
    is_told,
    part_words,
    spread_of,
    way_of,
)  # fmt: skip
from aretane.draw.look import LineName
from aretane.draw.shapes import Shape, zones
from aretane.draw.svg import drawing
from aretane.formats.layout import layout_as_data
from aretane.formats.printed.pages import page
from aretane.store import games
from aretane.store.scope import Scope

Data = dict[str, Any]
Place = tuple[int, int]  # rack and entry, from 0

MOMENTS, GOOD_ONES, TO_PRACTISE = 3, 3, 3
MOST_PICKED = 12
WORTH_PRACTISING = 0.05  # racks
FLUKE = 0.1  # a pot that comes off more rarely was no skill
CAUTION = (
    "Long practice and stretching tire back, wrist and shoulder: take breaks, stop when it hurts, ask a physician "
    "or physiotherapist about pain. Many rooms forbid jump and masse shots; house rules decide."
)
HOW_TO_READ = (
    "A point is a hundredth of the chance to win a rack; ± is a 95 % interval. Dashed: as it was played; solid: "
    "what was better."
)


def drill(match: Mapping[str, Any], rack: int, shot: int, table: str | None = None) -> Data:
    """The layout before a shot as an exercise, with its card; `rack` and `shot` count from 1. On another `table`
    (the name of a preset) in proportion. Raises `InputError` naming which is not there.
    """
    layout, data = _before(match, rack, shot)
    layout, data = _on(layout, data, table)
    called = data.get("called") or {}
    return {
        "layout": layout_as_data(layout),
        "ball": called.get("ball"),
        "pocket": called.get("pocket"),
        "zone": _zone(data),
        "card": [vars(one) for one in card(layout)],
    }


def drill_page(match: Mapping[str, Any], rack: int, shot: int, table: str | None = None) -> str:
    layout, data = _before(match, rack, shot)
    layout, data = _on(layout, data, table)
    called, target = data.get("called") or {}, (data.get("targets") or {}).get(CUE) or {}
    ball, pocket = called.get("ball"), pocket_words(called.get("pocket"), match["discipline"])
    task = f"Pot the {ball_words(ball)}{f' into {pocket}' if pocket else ''}" if ball else "As it lay"
    if _zone(data):
        task += ", and leave the cue ball in the zone"
    title = f"{match.get('title') or 'A layout'}: rack {rack}, shot {shot}"
    title += f", on {TABLES[table]}" if table in TABLES and table != match.get("table") else ""
    return card_page(layout, title, task, zones(target.get("zones") or ()))


def card_page(layout: Layout, title: str, task: str, over: Sequence[Shape] = ()) -> str:
    """The set-up card of a layout, with what is to be done and `over` drawn on it."""
    unit = "centimetres" if in_centimetres(layout.table) else "diamonds"
    picture = drawing(layout, over, title=f"{task}, drawn", colours="print")
    return page(
        "card", title=title, task=f"{task}.", drawing=picture, card=card(layout), caution=CAUTION,
        how=f"{unit.capitalize()}: along from the head cushion, across from the right one, seen from the head.",
    )  # fmt: skip


def _on(layout: Layout, data: Mapping[str, Any], table: str | None) -> tuple[Layout, Mapping[str, Any]]:
    """On another table; a zone is not carried over: on another table it is another one."""
    if table is None or table == layout.table.name:
        return layout, data
    if table not in PRESETS:
        raise InputError("table", f"must be one of {', '.join(PRESETS)}")
    return on_table(layout, PRESETS[table]), {**data, "targets": {}}


def _before(match: Mapping[str, Any], rack: int, shot: int) -> tuple[Layout, Mapping[str, Any]]:
    replayed = replay(match)
    if not 1 <= rack <= len(replayed.racks):
        raise InputError("rack", f"there is no rack {rack}; the match has {len(replayed.racks)}")
    entries = replayed.racks[rack - 1]
    if not 1 <= shot <= len(entries):
        raise InputError("shot", f"there is no shot {shot} in rack {rack}; it has {len(entries)}")
    entry = entries[shot - 1]
    if entry.before is None or not entry.before.object_balls:
        raise InputError("shot", f"nobody has said where the balls lay before shot {shot} of rack {rack}")
    return entry.before, entry.data


def _zone(data: Mapping[str, Any]) -> Data | None:
    """Where the cue ball was meant to be: the widest of the good zones."""
    found = ((data.get("targets") or {}).get(CUE) or {}).get("zones") or ()
    good = [dict(one) for one in found if one.get("grade", "acceptable") in GOOD]
    return max(good, key=lambda one: one.get("radius") or math.inf, default=None)


def report_page(
    match: Mapping[str, Any], judged: Data, player: str | None = None, picked: Sequence[Place] = (), words: str = ""
) -> str:
    """The report of a match for one player (a name; None: the first). `judged` as `formats.ledger` tells it. The
    coach may have `picked` its moments in their order (rack and entry, from 0; nothing: the dearest), and have
    `words` of his own. Raises `InputError` where there is nothing to report or nobody of that name.
    """
    names = {seat: str(((match.get("players") or {}).get(seat) or {}).get("name") or seat) for seat in ("A", "B")}
    seat = "A" if player is None else next((one for one, name in names.items() if name == player), None)
    if seat is None:
        raise InputError("--player", f"nobody of that name plays here; there are {' and '.join(names.values())}")
    entries = [
        (rack, index, entry)
        for rack, one in enumerate(judged["racks"])
        for index, entry in enumerate(one["shots"])
        if entry["player"] == seat
    ]
    if not entries:
        raise InputError("match", f"{names[seat]} has played no shot in it: there is nothing to report")
    replayed = replay(match)
    points = judged.get("unit") != "balls"
    dearest = sorted((one for one in entries if is_told(one[2])), key=lambda one: -cost_of(one[2]))[:MOMENTS]
    moments = [judged_at(judged, place) for place in picked] or dearest
    sums, errors = judged["players"][seat], judged["errors"][seat]
    return page(
        "report",
        title=f"{names[seat]}: {match.get('title') or 'a match'}",
        subtitle=_subtitle(match, replayed, names),
        said=judged["said"].get(seat) or "",
        bar=bar_of(sums),
        bar_words=", ".join(_sum_words(part, sums[part], errors.get(part), points) for part in PARTS),
        words=words.strip(),
        moments=[moment_of(match, replayed, one, points) for one in moments],
        good=[_good(one, points) for one in _best_of(entries, points)],
        figures=_figures(match, replayed, names[seat]),
        tried=[],
        practise=_practise(replayed, entries, points),
        how_to_read=HOW_TO_READ,
        caution=CAUTION,
    )


def judged_at(judged: Data, place: Place) -> tuple[int, int, Data]:
    rack, index = place
    return rack, index, judged["racks"][rack]["shots"][index]


def _subtitle(match: Mapping[str, Any], replayed: Replay, names: Mapping[str, str]) -> str:
    score, traits = replayed.result.score, traits_of(replayed.discipline)
    parts = [traits.title, f"{names['A']} {score['A']} : {score['B']} {names['B']}"]
    return ", ".join([*parts, *(str(match[key]) for key in ("date", "place") if match.get(key))])


def _best_of(entries: list[tuple[int, int, Data]], points: bool) -> list[tuple[int, int, Data]]:
    """The shots that won most and cost nothing by their choice; a pot that hardly ever comes off was a fluke."""
    least = 0.05 if points else 0.5
    good = [
        one
        for one in entries
        if gain_of(one[2]) > max(least, spread_of(one[2]))
        and (one[2]["decision"] or 0.0) > -least
        and ((one[2]["played"] or {}).get("pot") is None or one[2]["played"]["pot"] > FLUKE)
    ]
    return sorted(good, key=lambda one: -gain_of(one[2]))[:GOOD_ONES]


def _sum_words(part: str, value: float, error: float | None, points: bool) -> str:
    half = SURE * (error or 0.0)
    unit = "racks" if points else "balls"
    sign = "+" if value > 0 else "−" if value < 0 else ""
    return f"{WORDS[part]} {sign}{abs(value):.2f} ± {half:.2f} {unit}"


def moment_of(match: Mapping[str, Any], replayed: Replay, one: tuple[int, int, Data], points: bool) -> Data:
    rack, index, entry = one
    word = traits_of(replayed.discipline).rack
    shot = replayed.racks[rack][index]
    lines = [*choice_lines(entry, points), part_words(entry, points)]
    lines += [f"{each['words'][:1].upper()}{each['words'][1:]}." for each in entry["named"]]
    return {
        "where": f"{word.capitalize()} {rack + 1}, shot {index + 1}",
        "cost": cost_words(entry, points),
        "lines": lines,
        "note": shot.data.get("note") or "",
        "drawing": _picture(shot.before, entry),
    }


def remark_of(replayed: Replay, rack: int, index: int) -> Data:
    """A shot that nobody judged, with its table, what was meant and what was written to it."""
    shot = replayed.racks[rack][index]
    called, target = shot.data.get("called") or {}, (shot.data.get("targets") or {}).get(CUE) or {}
    meant = [ball_words(called["ball"])] if called.get("ball") else []
    what = " ".join([*meant, pocket_words(called.get("pocket"), replayed.discipline)]).strip()
    result = RESULTS.get(str(shot.data.get("result") or ""), "")
    table = drawing(
        shot.before, zones(target.get("zones") or ()), title="The table before the shot", colours="print"
    ) if shot.before is not None else ""  # fmt: skip
    return {
        "cost": "",
        "lines": [": ".join(part for part in (what, result) if part)],
        "note": shot.data.get("note") or "",
        "drawing": table,
    }


def _picture(before: Layout | None, entry: Data) -> str:
    if before is None:
        return ""
    lines: tuple[tuple[str, LineName], ...] = (("played", "route"), ("better", "cue-path"))
    ways = [Shape(line, way) for key, line in lines if (way := way_of(entry, key))]
    return drawing(before, ways, title="The table then, with what was played and what was better", colours="print")


def _good(one: tuple[int, int, Data], points: bool) -> str:
    rack, index, entry = one
    choice = entry["played"]
    what = choice["words"]["title"] if choice else {"opening": "the break"}.get(entry["kind"], "this shot")
    pot = f" (a pot of {choice['pot']:.0%})" if choice and choice["pot"] is not None else ""
    return f"Rack {rack + 1}, shot {index + 1}: {what}{pot}, {amount(gain_of(entry), points)}"


def _figures(match: Mapping[str, Any], replayed: Replay, name: str) -> list[tuple[str, str]]:
    """Those that were tried at all, each with its interval."""
    found = sheets([(match, replayed)])[name].figures()
    lines = [
        ("pots made", rate_words(found["pots"])), ("stopped in the zone", _inside(found["position"])),
        ("long (+) or short (−)", _mean_words(found["position"]["along"], 100, "cm")),
        ("safeties not attacked", rate_words(found["safeties"]["not_attacked"])),
        ("escapes that hit", rate_words(found["escapes"])),
        ("attack visits converted", rate_words(found["attack_visits"])),
        ("run-outs", rate_words(found["run_outs"])),
        ("balls on the break", _mean_words(found["breaks"]["balls"], 1, "") if found["breaks"] else ""),
        ("seconds a shot", _mean_words(found["shot_time"], 1, "s") if found["shot_time"] else ""),
    ]  # fmt: skip
    return [(name, value) for name, value in lines if value]


def rate_words(rate: Rate) -> str:
    if rate.p is None:
        return ""
    return f"{rate.p:.0%} ({rate.low:.0%} to {rate.high:.0%}), n {rate.n}"


def _inside(position: Data) -> str:
    return f"{position['inside']} of {position['n']}" if position["n"] else ""


def _mean_words(mean: Mean, scale: float, unit: str) -> str:
    if mean.mean is None:
        return ""
    ends = "" if mean.low is None or mean.high is None else f" ({scale * mean.low:.1f} to {scale * mean.high:.1f})"
    return f"{scale * mean.mean:.1f} {unit}{ends}, n {mean.n}".replace("  ", " ").replace("-", "−")


def _practise(replayed: Replay, entries: list[tuple[int, int, Data]], points: bool) -> list[str]:
    """The families that cost most, by the ledger, each with what it came to and how often it came up."""
    losses: dict[str, list[float]] = {}
    for rack, index, entry in entries:
        for family, part in _families(replayed, rack, index, entry):
            if entry[part] is not None:
                losses.setdefault(family, []).append(entry[part])
    ranked = sorted(losses.items(), key=lambda one: math.fsum(one[1]))
    unit = "racks" if points and traits_of(replayed.discipline).counts != BALLS else "balls"
    return [
        f"{family[:1].upper()}{family[1:]} (cost {-math.fsum(values):.2f} {unit} in {len(values)} shots): "
        f"{PRACTISE[family]}."
        for family, values in ranked[:TO_PRACTISE]
        if math.fsum(values) < (-WORTH_PRACTISING if points else -10 * WORTH_PRACTISING)
    ]


def _families(replayed: Replay, rack: int, index: int, entry: Data) -> list[tuple[str, str]]:
    if entry["kind"] == "opening":
        return [("break", "pot")]
    if entry["kind"] != "stroke":
        return []
    shot = replayed.racks[rack][index]
    if shot.data.get("intent") in ("safety", "containing", "escape"):
        return [("decisions", "decision"), ("safeties", "position")]
    return [("decisions", "decision"), ("position", "position"), (_pot_family(shot.before, shot.data), "pot")]


def _pot_family(before: Layout | None, data: Mapping[str, Any]) -> str:
    called = data.get("called") or {}
    ball, pocket = str(called.get("ball")), str(called.get("pocket"))
    if before is None or before.cue is None or ball not in before.balls or pocket not in before.table.pockets:
        return "pots"
    mouth, at = before.table.pockets[pocket].mouth, before.balls[ball]
    far = math.dist(before.cue, at) + math.dist(at, mouth)
    out, to = (math.atan2(b[1] - a[1], b[0] - a[0]) for a, b in ((before.cue, at), (at, mouth)))
    if abs(math.remainder(out - to, 2 * math.pi)) > math.radians(40):
        return "thin cuts"
    return "long pots" if far > 5 / 8 * before.table.length else "pots"


def bar_of(sums: Mapping[str, float]) -> str:
    """The ledger as one bar: what was lost to the left of the middle, what was won to the right, hatched so that no
    colour is needed."""
    shades = {"decision": "#000", "pot": "#555", "position": "#999", "luck": "#ddd"}
    most = max(1e-9, sum(abs(sums[part]) for part in PARTS))
    left = right = 300.0
    parts = []
    for part in PARTS:
        wide = 280.0 * abs(sums[part]) / most
        x = left - wide if sums[part] < 0 else right
        left, right = (left - wide, right) if sums[part] < 0 else (left, right + wide)
        parts.append(
            f'<rect x="{x:.1f}" y="4" width="{wide:.1f}" height="16" fill="{shades[part]}" stroke="#000" '
            f'stroke-width=".6"/>'
        )
        if wide > 46:
            ink = "#fff" if part in ("decision", "pot") else "#000"
            parts.append(
                f'<text x="{x + wide / 2:.1f}" y="15.5" font-size="9" text-anchor="middle" fill="{ink}">'
                f"{WORDS[part]}</text>"
            )
    body = "".join(parts)
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 26" role="img">'
        f'<title>Lost to the left, won to the right</title>{body}<path d="M300 0V26" stroke="#000"/></svg>'
    )


# For a club's own matches.


def report_of(
    house: House, scope: Scope, game_id: str, player: str | None, shots: Sequence[str] = (), words: str = ""
) -> str:
    """The report of a match that is judged as it stands. Raises `Refused` while it is not."""
    found = ledger.known(house, scope, game_id)
    if not found["current"]:
        raise Refused("this match is not judged yet: open its verdict, and come back when it is worked out")
    if len(shots) > MOST_PICKED:
        raise Refused(f"a report shows {MOST_PICKED} moments at most")
    with house.database.transaction() as db:
        match = games.load(db, scope, game_id)
    picked = [match.place(shot) for shot in shots]
    return report_page(match.as_document(), found["body"], player, picked, words)


def card_of(house: House, scope: Scope, game_id: str, shot_id: str, table: str | None = None) -> str:
    """The set-up card of a shot, on its own table or another."""
    with house.database.transaction() as db:
        match = games.load(db, scope, game_id)
    rack, index = match.place(shot_id)
    return drill_page(match.as_document(), rack + 1, index + 1, table)
