"""Commands that read recordings: the balls of a moment, the shots, the paths; and one that renders some."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click

from aretane import terminal
from aretane.core.errors import InputError


@click.group()
def video() -> None:
    """Read a recording: its balls at a moment, its shots, the balls' paths; or render a synthetic one."""


_reading = (  # what every reading of a recording needs to know of table and camera
    click.option("--corners", help='Four pixels "x,y x,y x,y x,y": head-left, head-right, foot-right, foot-left.'),
    click.option("--picture", help='The real picture inside a screen recording: "x,y,w,h".'),
    click.option("--camera", "camera_file", help="A JSON file of marks by name, instead of corners."),
    click.option("--table", default="pool-9ft", show_default=True),
    click.option(
        "--ball-set", type=click.Choice(["pool", "snooker", "blackball"]), default="pool", show_default=True
    ),
    click.option("--discipline", help="The game: then only its balls are there, and its rules tell who played."),
    click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal."),
)


def _wanted(path: str, asked: dict[str, Any]) -> tuple[Any, str | None]:
    """What to read of the file, and the discipline's name."""
    from aretane.core.rules.traits import traits_of
    from aretane.core.table import table_from
    from aretane.formats.marks import corners_from, marks_from, rectangle_from
    from aretane.formats.schema import parse
    from aretane.vision.shots.wanted import Wanted

    if asked["camera_file"]:
        marks = marks_from(parse(terminal.bytes_of(asked["camera_file"])))
    elif asked["corners"]:
        marks = corners_from(asked["corners"])
    else:
        raise InputError("corners", "four corners are needed, or a --camera file")
    picture = rectangle_from(asked["picture"])
    wanted = Wanted(path, table_from(asked["table"]), asked["ball_set"], marks, picture, marked_at=None)
    return wanted, asked["discipline"] and traits_of(asked["discipline"]).name


@video.command("balls")
@click.argument("file")
@click.option("--at", type=float, required=True, help="Seconds.")
@terminal.with_options(_reading)
def balls(file: str, at: float, as_json: bool, **asked: Any) -> None:
    """The balls of FILE at a moment, with their places, names and uncertainties."""
    from aretane.vision.shots.looking import balls_at

    answer = balls_at(*_wanted(file, asked), at)
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
        return
    for ball in answer["balls"]:
        place = f"{ball['x']:.3f} {ball['y']:.3f} ± {1000 * ball['sigma']:.0f} mm"
        click.echo(
            f"{ball['id']:<10} {ball['confidence']:.0%}  {place}  at {ball['pixel'][0]:.0f}, {ball['pixel'][1]:.0f}"
        )
    click.echo(f"{len(answer['balls'])} balls; marks miss by {answer['camera']['error_px']:.1f} px")


@video.command("shots")
@click.argument("file")
@terminal.with_options(_reading)
def shots(file: str, as_json: bool, **asked: Any) -> None:
    """The shots of FILE: changes between settled layouts."""
    from aretane.vision.shots.looking import shots_of

    answer = shots_of(*_wanted(file, asked))
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
        return
    for shot in answer["shots"]:
        click.echo(
            f"{shot['start']:8.2f} s to {shot['still']:8.2f} s  {shot['moved']} moved, {shot['gone']} gone"
            f"  ({shot['confidence']:.0%})  {_words_of(shot['proposal'])}"
        )
    click.echo(f"{len(answer['shots'])} shots; {answer['frames_per_second']:.2f} pictures a second")
    if answer["said"]:
        click.echo(answer["said"])


def _words_of(proposal: dict[str, Any]) -> str:
    fell = ", ".join(f"{one['ball']} {one.get('pocket') or ''}".strip() for one in proposal["potted"] or ())
    return f"{fell or 'nothing'} fell{', scratch' if proposal['scratch'] else ''}"


@video.command("track")
@click.argument("file")
@click.option("--from", "begin", type=float, required=True, help="Seconds; all balls stand there.")
@click.option("--to", "end", type=float, required=True, help="Seconds.")
@terminal.with_options(_reading)
def track(file: str, begin: float, end: float, as_json: bool, **asked: Any) -> None:
    """The ways of all balls of FILE from one time to another, and what happened on them."""
    from aretane.vision.paths.track import track_of

    answer = track_of(*_wanted(file, asked), begin, end)
    if terminal.as_json(as_json):
        click.echo(json.dumps(answer))
        return
    for one in answer["events"]:
        what = one.get("rail") or one.get("pocket") or ""
        at = f"{one['at'][0]:.3f} {one['at'][1]:.3f}"
        click.echo(f"{one['t']:8.2f} s  {one['kind']:<8} {' and '.join(one['balls']):<12} {what:<10} at {at}")
    if answer["stroke"]:
        told = {key: value for key, value in answer["stroke"].items() if key != "off"}
        said = ", ".join(
            f"{key} {one['value']:.2f} ({one['low']:.2f} to {one['high']:.2f})" for key, one in told.items()
        )
        click.echo(f"explained within {1000 * answer['stroke']['off']:.0f} mm by {said}")
    for path in answer["paths"]:
        click.echo(f"{path['ball']}: {len(path['points'])} places")


@video.command("render")
@click.argument("match")
@click.option("-o", "out", required=True, help="The recording to write; its truth goes beside it as .json.")
@click.option(
    "--view", type=click.Choice(["short rail", "corner", "overhead"]), default="short rail", show_default=True
)
@click.option("--cloth", default="blue", show_default=True, help="petrol, blue, light blue, green or grey.")
@click.option("--size", default="1280x720", show_default=True)
@click.option(
    "--rate", type=float, default=25.0, show_default=True, help="Pictures a second; below 1 at uneven times."
)
@click.option("--person", is_flag=True, help="A player with arm and cue.")
@click.option("--nasty", is_flag=True, help="As bad rooms and cameras have it: balls, light, marks, arms, blur.")
@click.option("--shots", type=int, help="Only so many shots.")
@click.option("--seed", type=int, default=1, show_default=True)
def render(
    match: str, out: str, view: str, cloth: str, size: str, rate: float, person: bool, nasty: bool,
    shots: int | None, seed: int,
) -> None:  # fmt: skip
    """Render a synthetic recording of MATCH, with its truth beside it."""
    from aretane.core.rules.traits import traits_of
    from aretane.formats.marks import size_from
    from aretane.formats.match import match_from
    from aretane.formats.schema import parse
    from aretane.vision.render.film import Recipe, render_match
    from aretane.vision.render.look import CLOTHS
    from aretane.vision.render.recipes import varied

    if cloth not in CLOTHS:
        raise InputError("cloth", f"must be one of {', '.join(CLOTHS)}")
    if not 0.05 <= rate <= 120:
        raise InputError("rate", "must be between 0.05 and 120 pictures a second")
    told = match_from(parse(terminal.bytes_of(match)))
    if not any((shot.get("layout_before") or {}).get("balls") for rack in told["racks"] for shot in rack["shots"]):
        raise InputError("match", "none of its shots has a layout to show")
    recipe = Recipe(size=size_from(size), rate=rate, view=view, cloth=cloth, person=person, shake=0.4,
                    shutter=1 / 80, seed=seed)  # fmt: skip
    if nasty:
        recipe = varied(recipe, seed, bool(traits_of(told["discipline"]).returns))
    truth = render_match(told, Path(out), recipe, shots)
    click.echo(json.dumps({"shots": len(truth["shots"]), "corners": truth["camera"]["corners"]}))
