"""Answers of the command line as text for a terminal."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any, TypeVar

import click

from aretane.core.errors import InputError

Command = TypeVar("Command", bound=Callable[..., Any])


def print_shot(answer: dict[str, Any]) -> None:
    for event in answer["events"]:
        where = event.get("pocket") or event.get("rail") or ""
        x, y = event["place"]
        click.echo(
            f"{event['t']:7.3f} s  {event['kind']:<9} {' '.join(event['balls']):<14} {where:<11} {x:.3f} {y:.3f}"
        )
    potted = " ".join(f"{fall['ball']} in {fall['pocket']}" for fall in answer["potted"])
    click.echo(f"potted: {potted or 'nothing'}; all at rest after {answer['duration']:.1f} s")
    if answer["miscue"]:
        click.echo("miscue: the tip is more than half a radius off centre")
    if answer["capped"]:
        click.echo("not played to its end: more events than the simulator allows")
    for name in ("pot", "foul_rate", "scratch_rate"):
        if name in answer:
            rate = answer[name]
            between = f"{rate['low']:.1%} to {rate['high']:.1%}"
            click.echo(f"{name.replace('_rate', ''):<8} {rate['p']:.1%} ({between}, n = {rate['n']})")


def print_reading(answer: dict[str, Any]) -> None:
    from rich.console import Console
    from rich.table import Table

    table = Table("ball", "pocket", "open", "cut", "fraction", "cue to contact", "to pocket", "± aim", "in the way")
    for shot in answer["shots"]:
        if shot["open"] <= 0 or shot["cut_angle_deg"] is None:
            continue
        tolerance = shot["tolerance_deg"]
        table.add_row(
            shot["ball"] + ("" if shot["legal"] else " (not on)"),
            shot["pocket"],
            f"{shot['open']:.0%}",
            f"{shot['cut_angle_deg']:.0f}° {shot['cut_side'] or ''}",
            f"{shot['fraction']:.2f}",
            f"{shot['cue_distance']:.2f} m",
            f"{shot['pocket_distance']:.2f} m",
            "" if tolerance is None else f"{tolerance:.2f}°",
            " ".join(shot["blocked_by"]),
        )
    console = Console()
    console.print(table)
    for problem in answer["problem_balls"]:
        console.print(f"{problem['ball']}: {problem['why']}")


def print_options(answer: dict[str, Any]) -> None:
    for number, option in enumerate(answer["options"]):
        mark = "A" if number == answer["best_attack"] else "S" if number == answer["best_safety"] else " "
        target = f"{option['ball']} in {option['pocket']}" if option["ball"] else option["intent"]
        worth = option["win"] or option.get("ahead")
        percent = "" if option["win"] is None else "%"
        scale = 1 if option["win"] is None else 100
        click.echo(
            f"{mark} {scale * worth['p']:5.1f}{percent} ({scale * worth['low']:.1f} to {scale * worth['high']:.1f},"
            f" n = {worth['n']})  {option['kind']:<12} {target:<24} {option['why']}"
        )
    if answer["break_even_pot"] is not None:
        click.echo(f"attack is right from a pot of {answer['break_even_pot']:.0%} on")
    click.echo(f"looks ahead: {answer['horizon']}")


def print_plan(answer: dict[str, Any]) -> None:
    for number, entry in enumerate(answer["order"]):
        mark = "key" if number == answer["key_shot"] else "   "
        rate = entry["value_rate"]
        x, y = entry["zone"]["centre"]
        click.echo(
            f"{mark} {entry['ball']:<9} {entry['pocket']:<11} from {x:.2f} {y:.2f}  pot {entry['pot']:.0%}"
            f"  to the end {rate['p']:.3g} ({rate['low']:.3g} to {rate['high']:.3g}, n = {rate['n']})"
        )
    for one in answer["groups"]:
        click.echo(
            f"{one['group']}: runs out {one['run']['p']:.1%} (n = {one['run']['n']}), wins {one['win']:.1%},"
            f" begun with the {one['ball']}"
        )
    for one in answer["break_shots"]:
        least = one["least_angle_deg"]
        opens = "does not open the rack" if least is None else f"opens from a cut of {least:.0f} degrees on"
        click.echo(
            f"break shot with the {one['ball']}: {opens}; at best potted {one['pot']:.0%},"
            f" {one['opened']:.0f} balls driven out, next pot {one['next_pot']:.0%} (n = {one['n']})"
        )
    for one in answer["instead"][1:]:
        price = "equal" if one["equal"] else f"{-one['cost']:+.3f} ± {one['error']:.3f}"
        click.echo(f"    {one['ball']:<9} first: {price:<18} {one['why']}")
    rate = answer["run_out"]
    click.echo(f"runs out {rate['p']:.1%} of the time ({rate['low']:.1%} to {rate['high']:.1%}, n = {rate['n']})")


def print_reach(answer: dict[str, Any]) -> None:
    for one in answer["strokes"]:
        stroke, pot, inside = one["stroke"], one["pot"], one["inside"]
        click.echo(
            f"{stroke['speed']:.1f} m/s, side {stroke['side']:+.2f}, height {stroke['height']:+.2f}"
            f"  by {one['route']}: potted {pot['p']:.0%} (n = {pot['n']}), then there {inside['p'] or 0.0:.0%}"
        )
    if not answer["strokes"]:
        nearest = answer["nearest"]
        near = (
            f"; the nearest is {100 * nearest['off']:.0f} cm away" if nearest else "; nothing pots that ball there"
        )
        click.echo(f"not possible from here{near}")


def print_kicks(answer: dict[str, Any]) -> None:
    for way in answer["ways"]:
        hit = way["hit"]
        click.echo(
            f"{' - '.join(way['rails']):<28} mirror at diamond {way['diamond']:.2f}, played at"
            f" {way['corrected_diamond']:.2f} with {way['speed']:.1f} m/s:"
            f" {hit['p']:.0%} ({hit['low']:.0%} to {hit['high']:.0%}, n = {hit['n']})"
        )
    if not answer["ways"]:
        click.echo("no way was found")


def print_fairness(rows: list[dict[str, Any]]) -> None:
    for row in rows:
        told = "  ".join(
            f"{part} {row[part]['mean']:+.3f} ± {row[part]['error']:.3f}"
            for part in ("decision", "pot", "position", "luck")
        )
        click.echo(f"{row['played']:<28} {row['entries']:>4} entries  {told}")


def print_figures(answer: dict[str, Any]) -> None:
    for name, figures in answer["players"].items():
        click.echo(name)
        for key, value in _lines(figures):
            click.echo(f"  {key:<28} {value}")


def print_answer(answer: dict[str, Any]) -> None:
    click.echo(answer["said"])
    for group in answer["groups"]:
        told = (dict(_lines({name: value})) for name, value in zip(answer["series"], group["values"], strict=True))
        click.echo(f"  {group['words']:<28} {'   '.join(one for each in told for one in each.values())}")


def _lines(figures: dict[str, Any], before: str = "") -> Iterator[tuple[str, str]]:
    for key, value in figures.items():
        name = f"{before}{key.replace('_', ' ')}"
        if isinstance(value, dict) and {"low", "high", "n"} <= value.keys():
            middle = value.get("p", value.get("mean"))
            ends = f" ({value['low']:.3g} to {value['high']:.3g})" if value["low"] is not None else ""
            yield name, "-" if middle is None else f"{middle:.3g}{ends}, n {value['n']}"
        elif isinstance(value, dict):
            yield from _lines(value, f"{name}: ")
        else:
            yield name, "-" if value is None else f"{value:.3g}" if isinstance(value, float) else str(value)


def print_ledger(answer: dict[str, Any]) -> None:
    """A rack after the other, a line an entry; what is smaller than its standard error stands in brackets."""
    factor, unit = (1.0, "balls") if answer.get("unit") == "balls" else (100.0, "points of win chance")
    click.echo(f"in {unit}; each as the player sees it")
    for number, rack in enumerate(answer["racks"], start=1):
        for index, shot in enumerate(rack["shots"]):
            parts = "  ".join(
                f"{name} {_signed(shot[name], shot['error'].get(name), factor):>7}"
                for name in ("decision", "pot", "position", "luck", "unsplit")
            )
            turn = "  <- turned it" if index == rack["turning_point"] else ""
            click.echo(
                f"{number}.{index + 1:<3} {shot['player']}  {factor * shot['before']:6.1f} to"
                f" {factor * shot['after']:6.1f}  {parts}  {shot['split']}{turn}"
            )
    for seat, sums in answer["players"].items():
        told = ", ".join(f"{name} {factor * sums[name]:+.1f}" for name in sums if name != "shots")
        click.echo(f"{seat}: {told} over {sums['shots']} entries")


def _signed(value: float | None, error: float | None, factor: float) -> str:
    if value is None:
        return "-"
    said = f"{factor * value:+.1f}"
    return f"({said})" if error is not None and abs(value) < error else said


def print_bench(answer: dict[str, Any]) -> None:
    click.echo(answer["machine"])
    click.echo(f"{'shots per second on one core':<36} {'best':>9} {'median':>9} {'events':>7} {'p99':>5}  capped")
    for case in answer["cases"]:
        click.echo(
            f"{case['name']:<36} {case['per_second']:9,.0f} {case['per_second_median']:9,.0f}"
            f" {case['events_mean']:7.1f} {case['events_p99']:5.0f}  {'yes' if case['capped'] else 'no'}"
        )
    click.echo(f"two threads are {answer['two_threads_speedup']:.2f} times as fast as one (median)")
    click.echo(f"a thread's workspace with 22 balls: {answer['workspace_bytes'] / 1000:.1f} kB")
    click.echo(
        f"start: {answer['warm_start_s']:.2f} s from cached kernels, {answer['cold_start_s']:.1f} s compiling"
    )
    print_timings(answer["timings"])


def print_timings(timings: list[dict[str, Any]]) -> None:
    for timing in timings:
        click.echo(f"{timing['name']:<36} {1000 * timing['seconds']:9.2f} ms")


def print_vision(answer: dict[str, Any]) -> None:
    rows, pace = answer["vision"], answer["pace"]
    click.echo(
        f"{'recording':<38} {'pixels':>7} {'balls':>5} {'recall':>6} {'prec.':>6} {'18 px mm':>10} {'less mm':>10}"
        f" {'named':>5} {'shots':>5} {'prec.':>5} {'names read':>11} {'x real':>6}"
        f" | {'ways mm':>10} {'told':>4} {'first':>7} {'rails':>7} {'fell':>7}"
    )
    for row in rows:
        large, small, way = (
            "-" if spread is None else f"{spread[0]} / {spread[1]}"
            for spread in (row["large_mm"], row["small_mm"], row.get("path_mm"))
        )
        names = "-" if row["read_named"] is None else f"{row['read_named']:.2f} / {row['read_named_corrected']:.2f}"
        click.echo(
            f"{row['recording']:<38} {row['pixels'][0]:>3}-{row['pixels'][1]:<3} {row['balls']:>5}"
            f" {row['recall']:6.3f} {row['precision']:6.3f} {large:>10} {small:>10} {row['named']:5.2f}"
            f" {row['shots_recall']:5.2f} {row['shots_precision']:5.2f} {names:>11} {row['times_real']:6.1f}"
            + (_ways(row, way) if "path_events" in row else "")
        )
    for words, size in (("balls of 18 px and more", "large"), ("smaller ones", "small")):
        found, stood = (sum(row[size][n] for row in rows) for n in (0, 1))
        click.echo(f"{words}: {found} of {stood} found")
    played, shown, found = (sum(row[key] for row in rows) for key in ("shots", "shots_shown", "shots_found"))
    click.echo(f"shots: {found} of {played} found; the recall is told of the {shown} that the pictures show")
    click.echo(
        f"{pace['seconds']:.0f} s of 720p30, balls running {pace['running']:.0%}, {pace['runs']} runs: read"
        f" {pace['with_ways']:.1f} times as fast as played with all ways, {pace['without']:.1f} without"
    )


def _ways(row: dict[str, Any], way: str) -> str:
    """Of the strokes that were followed how many were told right."""
    told = row["path_events"]
    first, rails = (f"{told[key]} of {told['shots']}" for key in ("first", "rails"))
    fell = f"{told['fell_right']} of {told['fell']}"
    return f" | {way:>10} {row['path_told']:4.2f} {first:>7} {rails:>7} {fell:>7}"


def print_films(answer: dict[str, Any]) -> None:
    click.echo(
        f"{'film':<12} {'camera':<9} {'cloth':<13} {'balls':<11} {'found':>10} {'extra':>5} {'named':>5}"
        f" {'5 px mm':>12} {'less mm':>12} | {'read: found':>11} {'extra':>5} {'named':>5}"
    )
    for row in answer["films"]:
        large, small = (
            "-" if spread is None else f"{spread[0]} / {spread[1]}" for spread in (row["large_mm"], row["small_mm"])
        )
        seen, read = f"{row['found']} of {row['asked']}", f"{row['read_found']} of {row['read_asked']}"
        click.echo(
            f"{row['film']:<12} {row['camera']:<9} {row['cloth']:<13} {row['balls']:<11} {seen:>10}"
            f" {row['extra']:>5} {row['named']:>5} {large:>12} {small:>12} | {read:>11} {row['read_extra']:>5}"
            f" {row['read_named']:>5}"
        )
    for of, words in (("", "single pictures"), ("read_", "films read")):
        told = {key: answer["together"][of + key] for key in ("recall", "extra", "named")}
        click.echo(f"{words}: found {told['recall']:.1%}, extra {told['extra']:.1%}, named {told['named']:.1%}")


def print_planning(rows: list[dict[str, Any]], totals: list[dict[str, Any]]) -> None:
    pairs = [
        (head, shown, came)
        for head, shown, came in (("runs out", "run", "ran"), ("wins", "win", "won"))
        if shown in rows[0]
    ]
    click.echo(f"{'layout':<26} {'hands':<32}" + "".join(f" {head:>14} {'played':>7}" for head, _, _ in pairs))
    for row in rows:
        told = "".join(
            f" {row[shown]['p']:8.3f} ± {(row[shown]['high'] - row[shown]['low']) / 2:.3f} {row[came]['p']:7.3f}"
            for _, shown, came in pairs
        )
        click.echo(f"{row['layout']:<26} {row['hands']:<32}{told}")
    for one in totals:
        click.echo(
            f"{one['value']}: bias {one['bias']:+.3f}, mean size {one['mean_size']:.3f},"
            f" largest {one['largest']:.3f}, inside its interval {one['covered']:.0%};"
            f" {one['tables']} tables and hands, {one['racks']} racks each"
        )


def print_points(totals: list[dict[str, Any]]) -> None:
    for one in totals:
        click.echo(
            f"{one['name']}: a visit's points shown {one['shown']:.1f}, played {one['came']:.1f} (ratio"
            f" {one['ratio']:.2f}), intervals meet {one['meet']:.0%}; {one['tables']} tables and hands,"
            f" {one['visits']} visits each"
        )


def print_hands(answer: dict[str, Any]) -> None:
    name = ""
    for one in answer["hands"]:
        if one["row"] != name:
            name = one["row"]
            click.echo(name)
        factor, digits = (100, 0) if one["unit"] == "%" else (1, 1)
        p, low, high = (factor * one["rate"][end] for end in ("p", "low", "high"))
        least, most = (factor * end for end in one["want"])
        click.echo(
            f"  {one['hand']:<13} {p:6.{digits}f} {one['unit']:<5}"
            f" ({low:.{digits}f} to {high:.{digits}f}, n {one['rate']['n']})"
            f"   wanted {least:g} to {most:g}{'' if one['inside'] else '   OUTSIDE'}"
        )
    for one in answer["estimates"]:
        click.echo(
            f"{one['error']} told from {one['shots']} shots: of {one['players']} players' records"
            f" {one['spoke']} speak; {one['held']['p']:.1%} of their 95 % intervals hold the truth"
        )


def with_options(options: Sequence[Callable[[Command], Command]]) -> Callable[[Command], Command]:
    """A command with all of these options, in this order."""

    def add(command: Command) -> Command:
        for option in reversed(options):
            command = option(command)
        return command

    return add


def as_json(asked: bool) -> bool:
    """Whether to answer in JSON: when asked for, and when nobody reads it in a terminal."""
    return asked or not sys.stdout.isatty()


def give(answer: dict[str, Any], asked: bool, words: Callable[[dict[str, Any]], None]) -> None:
    """An answer as JSON, or in words for who reads it in a terminal."""
    if as_json(asked):
        click.echo(json.dumps(answer))
    else:
        words(answer)


def bytes_of(path: str) -> bytes:
    """A file's bytes; one that cannot be read is bad input."""
    try:
        return Path(path).read_bytes()
    except OSError as problem:
        raise InputError(path, problem.strerror or "cannot be read") from None


def told(what: str) -> None:
    """Progress, for who looks at it."""
    if sys.stderr.isatty():
        print(f"\r\033[K{what}", end="", file=sys.stderr, flush=True)
