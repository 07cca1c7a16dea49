"""The commands that need the store: serve it, bring matches in and out, back it up and restore it."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from aretane import terminal
from aretane.core.errors import ImpossibleMatch, ImpossibleShot, InputError, Known

if TYPE_CHECKING:
    from aretane.desk.house import House
    from aretane.store.scope import Scope


@click.command("import")
@click.argument("files", nargs=-1, required=True)
@click.option("--keep", is_flag=True, help="Let impossible entries stand as the coach's word.")
@click.option("--same", type=click.Choice(["ask", "replace", "copy"]), default="ask", help="A match that is here.")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def import_files(files: tuple[str, ...], keep: bool, same: str, as_json: bool) -> None:
    """Import matches from FILES into the store. A file that is refused changes nothing."""

    from aretane.formats.match import read_match

    matches = []
    for number, file in enumerate(files, start=1):
        terminal.told(f"{number} of {len(files)}: {file}")
        try:
            matches.append(read_match(terminal.bytes_of(file), keep=keep))
        except ImpossibleMatch as problem:
            raise InputError(
                f"{file}: {problem.field}", f"{_places(problem.places)}; --keep lets them stand"
            ) from None
        except InputError as problem:
            raise InputError(f"{file}: {problem.field}", problem.message) from None
    with _house(new=True) as (house, scope):
        ids = _taken_in(house, scope, matches, same)
    click.echo(json.dumps({"imported": ids}) if terminal.as_json(as_json) else "\n".join(ids))


def _taken_in(house: House, scope: Scope, matches: list[dict[str, Any]], same: str) -> list[str]:
    from aretane.desk.games import take_in_all

    try:
        return take_in_all(house, scope, matches, same)
    except Known as problem:
        raise InputError("id", f"{problem.message} (--same replace, --same copy)") from None


def _places(places: list[ImpossibleShot]) -> str:
    """The first impossible entry in full, the others by place, on one line."""
    first, *others = places
    more = ", ".join(place.field for place in others[:20])
    return f"{first.message}; also {more}" if others else first.message


@click.command()
@click.argument("match")
@click.option(
    "--as",
    "form",
    type=click.Choice(["json", "csv", "xlsx", "parquet", "vtt", "txt"]),
    default="json",
    show_default=True,
)
def export(match: str, form: str) -> None:
    """Write a MATCH (its id, or the beginning of its title) to standard output: all of it, the flat table of its
    shots, or the chapters of its recording. "all" writes every match as one flat table."""
    from aretane.desk import games

    with _house(new=False) as (house, scope):
        if match == "all":
            if form not in ("csv", "xlsx", "parquet"):
                raise InputError("--as", "all matches come as one table: csv, xlsx or parquet")
            sys.stdout.buffer.write(games.as_season(house, scope, form))
            return
        game_id = games.called(house, scope, match)
        if form != "json":
            sys.stdout.buffer.write(games.as_table(house, scope, game_id, form))
            return
        data = games.as_file(house, scope, game_id)
    click.echo(json.dumps(data, indent=2, ensure_ascii=False))


@click.command()
@click.argument("measure")
@click.option("--by", default="nothing", help="What the answer is told apart by: cut, way, tip, player, month ...")
@click.option("--player", help="Of whom, by name.")
@click.option("--versus", help="Against whom, by name: compared on the same shots where that can be.")
@click.option("--parted", type=click.DateTime(["%Y-%m-%d"]), help="Before this day against from it on.")
@click.option("--since", type=click.DateTime(["%Y-%m-%d"]), help="From this day on.")
@click.option("--until", type=click.DateTime(["%Y-%m-%d"]), help="Up to this day.")
@click.option("--session", default="match", show_default=True, help="The session type; never mixed unasked.")
@click.option("--discipline", help="Only this game.")
@click.option("--json", "as_json", is_flag=True, help="JSON, also in a terminal.")
def ask(
    measure: str, by: str, player: str | None, versus: str | None, parted: datetime | None, since: datetime | None,
    until: datetime | None, session: str, discipline: str | None, as_json: bool,
) -> None:  # fmt: skip
    """Ask the figures of the store: MEASURE (pots, chances, safeties, along, decision ...) of one player or two."""
    from aretane.core.statistics.question import Asked
    from aretane.desk import questions

    where = {"session": session} | ({"discipline": discipline} if discipline else {})
    with _house(new=False) as (house, scope):
        one, other = (questions.named(house, scope, name) if name else None for name in (player, versus))
        cut, begin, end = (day.date().isoformat() if day else None for day in (parted, since, until))
        answer = questions.answer(house, scope, Asked(measure, by, one, other, cut, begin, end, where))
    terminal.give(answer, as_json, terminal.print_answer)


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
def paper(file: Path) -> None:
    """Take in counts from a sheet of paper: a CSV FILE, see docs/formats. One that is wrong changes nothing."""
    from aretane.desk import questions

    with _house(new=True) as (house, scope):
        click.echo(f"{questions.take_in(house, scope, terminal.bytes_of(str(file)))} counts taken in")


@click.command()
@click.option("--port", type=click.IntRange(1, 65535), help="Port on this machine.")
@click.option("--backup-to", type=click.Path(path_type=Path), help="A folder to back up to once a day.")
@click.option("--keep", type=click.IntRange(1, 1000), default=14, show_default=True, help="Backups that are kept.")
def serve(port: int | None, backup_to: Path | None, keep: int) -> None:
    """Open your own club in the browser."""
    from aretane.desk.keeper import Backups
    from aretane.serving import run

    run(port, demo=False, backups=Backups(backup_to.resolve(), keep) if backup_to else None)


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
def backup(file: Path) -> None:
    """Write everything, data and recordings, to FILE; also while Aretane is running."""
    from aretane.store.backup import back_up

    if file.exists():
        raise InputError(str(file), "is there already; choose another name")
    with _house(new=False) as (house, _):
        manifest = back_up(house.database, house.files, file, terminal.told)
    missing = f"; {len(manifest.missing)} without their file" if manifest.missing else ""
    click.echo(f"{file}: {file.stat().st_size / 1e6:.1f} MB, {len(manifest.parts) - 1} recordings{missing}")


@click.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--replace", is_flag=True, help="Put it in the place of a store that holds something.")
@click.option("--yes", is_flag=True, help="Do not ask again.")
def restore(file: Path, replace: bool, yes: bool) -> None:
    """Make the store anew from the backup in FILE. A damaged file changes nothing."""
    from aretane.desk.house import House
    from aretane.serving import opened_store
    from aretane.settings import Settings
    from aretane.store import backup
    from aretane.store.database import migrate

    manifest = backup.check(file, terminal.told)
    settings = Settings.from_environment()
    with opened_store(settings, alone=True) as database:
        if backup.holds_anything(database):
            if not replace:
                raise InputError("store", "holds something already; --replace puts the backup in its place")
            if not yes:
                click.confirm(
                    f"Everything in {settings.var} goes, and the backup of {manifest.made_at} comes. Sure?",
                    abort=True,
                )
        backup.restore(database, House.opened(settings, database).files, file, terminal.told)
        migrate(database.address)
    click.echo(f"restored as of {manifest.made_at}: {len(manifest.parts) - 1} recordings")


@click.command()
@click.option("--port", type=click.IntRange(1, 65535), help="Port on this machine.")
def demo(port: int | None) -> None:
    """Open Aretane with the demo club in it."""
    from aretane.serving import run

    run(port, demo=True)


@contextmanager
def _house(*, new: bool) -> Iterator[tuple[House, Scope]]:
    """The store, for its coach; with `new` an empty store gets one."""
    from aretane.desk.house import House
    from aretane.serving import opened_store
    from aretane.settings import Settings
    from aretane.store.club import coach, first_scope

    settings = Settings.from_environment()
    with opened_store(settings) as database:
        scope = database.write(coach if new else first_scope)
        if scope is None:
            raise InputError("match", "there is none: this store is empty")
        yield House.opened(settings, database), scope


COMMANDS = (import_files, export, ask, paper, serve, demo, backup, restore)
