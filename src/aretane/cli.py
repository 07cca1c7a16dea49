"""The command line: JSON when piped or asked for, a table otherwise; exit 2 with one line for bad input."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import click

from aretane import store_commands, terminal
from aretane.core.errors import Problem
from aretane.settings import ROOT
from aretane.video_commands import video

MOST_SAMPLES = 200_000
HAND = "A hand by name, or a JSON file; of two partners in alternation as in league+club."


@click.group(
    context_settings={"help_option_names": ["-h", "--help"]},
    epilog="Before these can run: setup. On a checkout: test.",
)
def commands() -> None:
    """Aretane: review of recorded pool and snooker."""


for command in store_commands.COMMANDS:
    commands.add_command(command)


@commands.command()
@click.argument("layout")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def read(layout: str, as_json: bool) -> None:
    """Read a LAYOUT: every ball into every pocket, clusters, problem balls, what can be seen."""
    from aretane.desk import tables
    from aretane.formats.layout import read_layout

    answer = tables.read(read_layout(terminal.bytes_of(layout)))
    terminal.give(answer, as_json, terminal.print_reading)


_plain_option = click.option(
    "--plain-hand", is_flag=True,
    help="The hand's errors exactly as they are: no effort, and a table without chance of its own.",
)  # fmt: skip


@commands.command()
@click.argument("layout")
@click.argument("stroke")
@click.option(
    "--samples", type=click.IntRange(0, MOST_SAMPLES), default=0, help="Repeat it with the player's hand."
)
@click.option("--player", default="club", show_default=True, help=HAND)
@_plain_option
@click.option("--seed", type=click.IntRange(0), default=0, show_default=True, help="Samples repeat exactly.")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def simulate(
    layout: str, stroke: str, samples: int, player: str, plain_hand: bool, seed: int, as_json: bool
) -> None:
    """Play a STROKE on a LAYOUT: what touches what, what falls, and where everything stops."""
    from aretane.desk import lab
    from aretane.formats.layout import read_layout
    from aretane.formats.stroke import read_stroke

    place, meant = read_layout(terminal.bytes_of(layout)), read_stroke(terminal.bytes_of(stroke))
    found = lab.played(place, meant, _hand(player, "--player", place.table, plain=plain_hand), samples, seed)
    answer = found["shot"] | (found["samples"] or {})
    terminal.give(answer, as_json, terminal.print_shot)


_layout_options = (
    click.option("--player", default="club", show_default=True, help=HAND),
    _plain_option,
    click.option("--seed", type=click.IntRange(0), default=0, show_default=True, help="Samples repeat exactly."),
    click.option(
        "--effort", type=click.Choice(["glance", "coarse", "fine", "finest"]), default="coarse", show_default=True,
        help="How finely places and strokes are searched, and how often each is played.",
    ),
    click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal."),
)  # fmt: skip


@commands.command("options")
@click.argument("layout")
@click.option("--opponent", help="The opponent's hand, or \"none\"; the player's own if not given.")
@click.option(
    "--handed", type=click.Choice(["unknown", "right", "left", "both"]), default="unknown", show_default=True,
    help="How the player cues: then a stretch, the rest or a ball under the cue widen the hand's error.",
)  # fmt: skip
@terminal.with_options(_layout_options)
def options_command(
    layout: str,
    opponent: str | None,
    player: str,
    plain_hand: bool,
    seed: int,
    effort: str,
    handed: str,
    as_json: bool,
) -> None:
    """The choices at a LAYOUT, attack and safety, with what each is worth to these two players."""
    from aretane.desk.work.choices import Wanted, options
    from aretane.formats.layout import read_layout

    place = read_layout(terminal.bytes_of(layout))
    hand = _hand(player, "--player", place.table, plain=plain_hand)
    alone = opponent == "none"
    other = _hand(opponent, "--opponent", place.table, plain=plain_hand) if opponent and not alone else hand
    answer = options(Wanted("choices", place, {}, (hand, other), handed, (effort,), seed=seed, alone=alone))
    terminal.give(answer, as_json, terminal.print_options)


@commands.command("plan")
@click.argument("layout")
@click.option("--order", "begin", default="", help='Balls to begin with, as in "5,3".')
@terminal.with_options(_layout_options)
def plan_command(
    layout: str, begin: str, player: str, plain_hand: bool, seed: int, effort: str, as_json: bool
) -> None:
    """The order for the rest of a LAYOUT: where the cue ball must go for each ball, and how often it comes off."""
    from aretane.desk.work.choices import Wanted, balls_in, plan
    from aretane.formats.layout import read_layout

    place = read_layout(terminal.bytes_of(layout))
    hand = _hand(player, "--player", place.table, plain=plain_hand)
    answer = plan(
        Wanted("choices", place, {}, (hand, hand), "unknown", (effort,), begin=balls_in(begin), seed=seed)
    )
    terminal.give(answer, as_json, terminal.print_plan)


_solver_options = (
    click.option("--player", default="club", show_default=True, help=HAND),
    _plain_option,
    click.option("--seed", type=click.IntRange(0), default=0, show_default=True, help="Samples repeat exactly."),
    click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal."),
)


@commands.command("reach")
@click.argument("layout")
@click.option("--ball", required=True, help="The ball that is potted.")
@click.option("--pocket", required=True, help="Where.")
@click.option("--to", help='Where the cue ball should stop, as in "1.2,0.4" (metres).')
@click.option("--next", "then", help='Or the next ball with its pocket and cut in degrees, as in "5,foot-left,30".')
@click.option("--radius", type=float, default=0.1, show_default=True, help="How near is there (m).")
@terminal.with_options(_solver_options)
def reach_command(
    layout: str, ball: str, pocket: str, to: str | None, then: str | None, radius: float, player: str,
    plain_hand: bool, seed: int, as_json: bool,
) -> None:  # fmt: skip
    """How to get the cue ball to a place from a LAYOUT: strokes that pot the ball and stop there."""
    from aretane.core.errors import InputError
    from aretane.core.planning.backwards.goal import next_ball, place_of
    from aretane.core.planning.backwards.reach import reach
    from aretane.formats.backwards import next_from, place_from, reach_as_data
    from aretane.formats.layout import read_layout

    place = read_layout(terminal.bytes_of(layout))
    if not 0.0 < radius <= place.table.length:
        raise InputError("radius", f"{radius:g} m is none for this table")
    hand = _hand(player, "--player", place.table, plain=plain_hand)
    if (to is None) == (then is None):
        raise InputError("to", "say where the cue ball should stop: --to or --next")
    goal = (
        place_of(place, place_from(to), radius)
        if to is not None
        else next_ball(place, ball, *next_from(then or ""))
    )
    answer = reach_as_data(reach(place, ball, pocket, goal, hand, seed=seed, threads=2))
    terminal.give(answer, as_json, terminal.print_reach)


@commands.command("kick")
@click.argument("layout")
@click.option("--ball", required=True, help="The ball that is to be struck.")
@click.option("--pocket", help="Where it should be potted; without, it is only struck.")
@click.option("--rails", type=int, help="By so many rails, 1 to 4; without, one or two, or more where none goes.")
@click.option("--side", type=float, default=0.0, show_default=True, help="Of the radius, right above 0.")
@terminal.with_options(_solver_options)
def kick_command(
    layout: str, ball: str, pocket: str | None, rails: int | None, side: float, player: str, plain_hand: bool,
    seed: int, as_json: bool,
) -> None:  # fmt: skip
    """Kicks at a ball of a LAYOUT: the mirror and its diamond, the corrected aim, and how often it comes off."""
    from aretane.core.planning.backwards.kick import kick_ways
    from aretane.formats.backwards import ways_as_data
    from aretane.formats.layout import read_layout

    place = read_layout(terminal.bytes_of(layout))
    hand = _hand(player, "--player", place.table, plain=plain_hand)
    answer = ways_as_data(kick_ways(place, ball, hand, pocket, rails, seed=seed, threads=2, side=side))
    terminal.give(answer, as_json, terminal.print_kicks)


def _hand(player: str, field: str, table: Any, *, plain: bool) -> Any:
    """A preset on this table, or the hand in a JSON file."""
    from aretane.core.skill.hand import LEVELS, hand_from
    from aretane.formats.schema import parse

    named = player in LEVELS or not Path(player).is_file()
    hand = hand_from(player if named else parse(terminal.bytes_of(player)), table, field)
    return hand.all_plain if plain else hand


@commands.command()
@click.argument("match")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def referee(match: str, as_json: bool) -> None:
    """Rule on every shot of a MATCH."""
    from aretane.core.rules.referee import referee as rule
    from aretane.core.rules.referee import result_as_data
    from aretane.formats.match import match_from
    from aretane.formats.schema import parse

    answer = result_as_data(rule(match_from(parse(terminal.bytes_of(match)))))
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
        return
    for number, rack in enumerate(answer["racks"], start=1):
        for index, shot in enumerate(rack["shots"], start=1):
            click.echo(f"{number}.{index:<3} {shot['foul'] or '-':<18} {shot['why']}")
        click.echo(f"    rack {number}: {rack['winner'] or 'open'}, {rack['score']['A']}:{rack['score']['B']}")


@commands.command("ledger")
@click.argument("match")
@click.option("--player-a", help="A's hand, by name or a JSON file; as this match's own shots tell if not given.")
@click.option("--player-b", help="B's hand, likewise.")
@click.option("--settled", is_flag=True, help="Take five to ten times as long, and be surer.")
@click.option("--seed", type=click.IntRange(0), default=0, show_default=True, help="Samples repeat exactly.")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def ledger_command(
    match: str, player_a: str | None, player_b: str | None, settled: bool, seed: int, as_json: bool
) -> None:
    """Where the racks of a MATCH were won and lost: what each shot changed, by decision, pot, position and luck."""
    from aretane.core.rules.referee import referee as rule
    from aretane.core.table import table_from
    from aretane.desk.work.ledger import Wanted, ledger
    from aretane.formats.match import match_from
    from aretane.formats.schema import parse

    data = match_from(parse(terminal.bytes_of(match)))
    rule(data)  # the first impossible shot is said before any work
    table = table_from(data.get("table", "pool-9ft"))
    given = {
        seat: _hand(hand, f"--player-{seat.lower()}", table, plain=False)
        for seat, hand in (("A", player_a), ("B", player_b))
        if hand
    }
    answer = ledger(Wanted(data, given, "settled" if settled else "coarse", seed))
    terminal.give(answer, as_json, terminal.print_ledger)


@commands.command("drill")
@click.argument("match")
@click.option("--rack", type=int, required=True, help="Counted from 1.")
@click.option("--shot", type=int, required=True, help="Counted from 1.")
@click.option("--table", help="Another table than that of the match: pool-8ft, pool-7ft ...")
@click.option("-o", "target", type=click.Path(path_type=Path), help="A PDF or HTML file for the card.")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def drill_command(match: str, rack: int, shot: int, table: str | None, target: Path | None, as_json: bool) -> None:
    """A shot of a MATCH as an exercise: its layout, and the card by which it is set up on a real table."""
    from aretane.desk.reports import drill, drill_page
    from aretane.formats.match import match_from
    from aretane.formats.printed.pages import written
    from aretane.formats.schema import parse

    data = match_from(parse(terminal.bytes_of(match)))
    answer = drill(data, rack, shot, table)
    if target is not None:
        written(drill_page(data, rack, shot, table), target)
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
    else:
        click.echo("\n".join(one["text"] for one in answer["card"]))


@commands.command("report")
@click.argument("match")
@click.option("-o", "target", type=click.Path(path_type=Path), required=True, help="A PDF or HTML file.")
@click.option("--player", help="For whom, by name; the first player if not given.")
def report_command(match: str, target: Path, player: str | None) -> None:
    """The report of a MATCH for one player: result, moments, what was good, figures, what to practise. A match that
    was exported with its ledger needs no judging."""
    from aretane.core.rules.referee import referee as rule
    from aretane.desk.reports import report_page
    from aretane.desk.work.ledger import Wanted, ledger, version_of
    from aretane.formats.match import match_from
    from aretane.formats.printed.pages import check_target, written
    from aretane.formats.schema import parse

    check_target(target)
    data = match_from(parse(terminal.bytes_of(match)))
    rule(data)
    kept = data.get("ledger") or {}
    current = kept.get("version") == version_of(data["discipline"])
    known = kept if current else ledger(Wanted(data, {}, "glance"))
    written(report_page(data, known, player), target)


@commands.command("figures")
@click.argument("matches", nargs=-1, required=True)
@click.option("--player", help="Only this player's.")
@click.option("--session", help="Only matches of this session type.")
@click.option("--discipline", help="Only matches of this discipline.")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def figures_command(
    matches: tuple[str, ...], player: str | None, session: str | None, discipline: str | None, as_json: bool
) -> None:
    """What MATCHES add up to for each player: pots, position, safeties, breaks, visits, as the files have it."""
    from aretane.formats.figures import figures_of
    from aretane.formats.match import match_from
    from aretane.formats.schema import parse

    read = [(file, match_from(parse(terminal.bytes_of(file)))) for file in matches]
    answer = figures_of(read, session, discipline, player)
    terminal.give(answer, as_json, terminal.print_figures)


@commands.command()
@click.option("--vision", is_flag=True, help="How well recordings are read instead; takes about half an hour.")
@click.option("--films", help="With --vision: a folder of films with their truth, instead of our own.")
@click.option("--planning", is_flag=True, help="How far values are from racks played to the end instead.")
@click.option("--hands", is_flag=True, help="What the preset hands do beside what such players do instead.")
@click.option("--ledger", is_flag=True, help="How fair the ledger is, and what it finds of planted weaknesses.")
@click.option("--load", is_flag=True, help="Load, faults and hostile input instead; PARTS name some of them.")
@click.option("--keys", is_flag=True, help="How soon a key at the bench is seen, in a browser, instead.")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
@click.argument("parts", nargs=-1)
def bench(
    vision: bool,
    films: str | None,
    planning: bool,
    hands: bool,
    ledger: bool,
    load: bool,
    keys: bool,
    as_json: bool,
    parts: tuple[str, ...],
) -> None:
    """Measure how long the usual work takes on this machine, and how many shots a second it simulates."""
    if load or keys:
        parts = ("keys",) if keys else parts
        sys.exit(subprocess.run([sys.executable, "-m", "tests.load", *parts], cwd=ROOT, check=False).returncode)
    if parts:
        raise click.UsageError("parts are for --load")
    if films and not vision:
        raise click.UsageError("--films goes with --vision")
    if hands:
        _bench_hands(as_json)
        return
    if vision:
        _bench_vision(films, as_json)
        return
    if planning:
        _bench_planning(as_json)
        return
    if ledger:
        _bench_ledger(as_json)
        return
    from aretane.timings import measure

    answer = measure()
    terminal.give(answer, as_json, terminal.print_bench)


def _bench_planning(as_json: bool) -> None:
    from aretane.frames_bench import frames
    from aretane.planning_bench import (
        VALUES,
        accuracy,
        group_accuracy,
        growth,
        points_accuracy,
        points_summary,
        summary,
    )

    given, free, points, played = accuracy(), group_accuracy(), points_accuracy(), frames()
    answer = {
        "planning": given, "summary": summary(given), "groups": free, "groups_summary": summary(free),
        "points": points, "points_summary": points_summary(points), "growth": growth(),
        "frames": played, "frames_summary": summary(played, VALUES[1:]),
    }  # fmt: skip
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
    else:
        terminal.print_planning(given, answer["summary"])
        terminal.print_planning(free, answer["groups_summary"])
        terminal.print_points(answer["points_summary"])
        terminal.print_planning(played, answer["frames_summary"])
        terminal.print_timings(answer["growth"])


def _bench_ledger(as_json: bool) -> None:
    from aretane.ledger_bench import measure

    answer = {"ledger": measure(told=terminal.told)}
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
    else:
        terminal.print_fairness(answer["ledger"])


def _bench_hands(as_json: bool) -> None:
    from aretane.estimate_bench import coverage
    from aretane.hands_bench import measure

    answer = {"hands": measure(), "estimates": coverage()}
    terminal.give(answer, as_json, terminal.print_hands)


def _bench_vision(films: str | None, as_json: bool) -> None:
    from aretane import films_bench, vision_bench

    answer = films_bench.measure(Path(films)) if films else vision_bench.measure()
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
    elif films:
        terminal.print_films(answer)
    else:
        terminal.print_vision(answer)


commands.add_command(video)


@commands.command("openapi", hidden=True)
def openapi() -> None:
    """Print the interface description from which the pages' types are made."""
    from aretane.serving import interface_description

    click.echo(json.dumps(interface_description(), indent=1, sort_keys=True))


@commands.command("trade", hidden=True)
def trade() -> None:
    """Print the words of the trade as the pages have them."""
    from aretane.core import words

    disciplines, *others = words.trade().items()
    click.echo("export const trade = {")
    click.echo(f"{json.dumps(disciplines[0])}: [")
    for one in disciplines[1]:
        click.echo(f"{json.dumps(one, ensure_ascii=False)},")
    click.echo("],")
    for name, value in others:
        click.echo(f"{json.dumps(name)}: {json.dumps(value, ensure_ascii=False)},")
    click.echo("} as const;")


def main() -> int:
    """Run a command. Exit 0, or 2 with one line on stderr that names what was wrong."""
    try:
        commands.main(prog_name="./aretane", standalone_mode=False)
    except Problem as problem:
        print(f"error: {problem}", file=sys.stderr)
        return 2
    except click.ClickException as problem:
        print(f"error: {problem.format_message()}", file=sys.stderr)
        return 2
    except click.Abort:
        return 130
    return 0


if __name__ == "__main__":
    sys.exit(main())
