"""The table in squares of a diamond, eight by four, counted from the head rail: where cue balls lay and stopped."""

from __future__ import annotations

from aretane.core.table import Point, Table

ALONG, ACROSS = 8, 4


def square_of(table: Table, place: Point) -> int:
    """The number of the square that a place lies in: along the table first, then across."""
    along = min(ALONG - 1, max(0, int(ALONG * place[0] / table.length)))
    across = min(ACROSS - 1, max(0, int(ACROSS * place[1] / table.width)))
    return along * ACROSS + across


def square_words(number: int) -> str:
    """The square by its diamonds, from the head rail and from the right long rail as seen from there."""
    along, across = divmod(number, ACROSS)
    return f"diamond {along} to {along + 1} from the head, {across} to {across + 1} across"
