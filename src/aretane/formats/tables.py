"""Tables out: CSV, XLSX and Parquet of the flat table of shots and of answers, WebVTT chapters of a recording."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.errors import Refused
from aretane.core.statistics.flat import COLUMNS, Cell
from aretane.core.words import ball_words, pocket_words

DANGEROUS = ("=", "+", "-", "@", "\t", "\r")  # a spreadsheet takes words that begin so for a formula
SHORTEST = 1.0  # seconds of a chapter
DIGITS = 5


@dataclass(frozen=True)
class Head:
    """A table's name, and its columns with what they mean."""

    name: str
    columns: Sequence[tuple[str, str]]


SHOTS = Head("shots", tuple((column.name, column.means) for column in COLUMNS))
ANSWER = Head(
    "answer",
    (
        ("field", "what the strokes have in common"),
        ("of", "whose, or when"),
        ("value", "share or mean; metres, seconds"),
        ("low", "lower end of the 95 % interval"),
        ("high", "upper end of it"),
        ("n", "strokes"),
    ),
)


def as_csv(rows: Iterable[Sequence[Cell]], head: Head = SHOTS) -> str:
    """A table as CSV (RFC 4180), with a header; words that a spreadsheet would run stand behind an apostrophe."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([name for name, _ in head.columns])
    for row in rows:
        writer.writerow([_plain(cell) for cell in row])
    return out.getvalue()


def _plain(cell: Cell) -> Cell:
    if isinstance(cell, float):
        return round(cell, DIGITS)
    if isinstance(cell, str) and cell.startswith(DANGEROUS):
        return "'" + cell
    return cell


def as_xlsx(rows: Iterable[Sequence[Cell]], head: Head = SHOTS) -> bytes:
    """A table as a workbook: its rows, and what each column means."""
    import xlsxwriter

    out = io.BytesIO()
    options = {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False, "nan_inf_to_errors": True}
    book = xlsxwriter.Workbook(out, options)
    bold = book.add_format({"bold": True})
    sheet, means = book.add_worksheet(head.name), book.add_worksheet("columns")
    sheet.freeze_panes(1, 0)
    for at, (name, meaning) in enumerate(head.columns):
        sheet.write_string(0, at, name, bold)
        means.write_string(at, 0, name, bold)
        means.write_string(at, 1, meaning)
    means.set_column(0, 0, 20)
    means.set_column(1, 1, 60)
    count = 0
    for count, row in enumerate(rows, start=1):
        for at, cell in enumerate(row):
            if cell is not None:
                sheet.write(count, at, round(cell, DIGITS) if isinstance(cell, float) else cell)
    sheet.autofilter(0, 0, max(1, count), len(head.columns) - 1)
    book.close()
    return out.getvalue()


def as_parquet(rows: Iterable[Sequence[Cell]], head: Head = SHOTS) -> bytes:
    """A table as Parquet; what each column means stands with it. A column of several kinds is one of words."""
    import pyarrow as pa
    import pyarrow.parquet as pq

    columns = list(zip(*rows, strict=True)) or [()] * len(head.columns)
    fields, arrays = [], []
    for (name, meaning), values in zip(head.columns, columns, strict=True):
        kinds = {type(value) for value in values if value is not None}
        one = next(iter(kinds)) if len(kinds) == 1 else float if kinds == {int, float} else str
        arrays.append(
            pa.array([None if value is None else one(value) for value in values], None if kinds else pa.string())
        )
        fields.append(pa.field(name, arrays[-1].type, metadata={"means": meaning}))
    out = io.BytesIO()
    pq.write_table(pa.Table.from_arrays(arrays, schema=pa.schema(fields)), out)
    return out.getvalue()


AS: Mapping[str, Callable[[Iterable[Sequence[Cell]], Head], bytes]] = {
    "csv": lambda rows, head: as_csv(rows, head).encode(),
    "xlsx": as_xlsx,
    "parquet": as_parquet,
}


def as_vtt(match: Mapping[str, Any], recording: int = 0) -> str:
    """Chapters of one of the match's recordings: a cue a shot, from its still picture to rest. Raises `Refused`
    where no shot has its time in it.
    """
    from webvtt import Caption, WebVTT

    chapters = WebVTT()
    for begin, end, words in _chapters(match, recording):
        chapters.captions.append(Caption(_stamp(begin), _stamp(end), _escaped(words)))
    return str(chapters.content)


def as_times(match: Mapping[str, Any], recording: int = 0) -> str:
    """The same as a plain list, a line a chapter, as it is put under a film. Raises `Refused` likewise."""
    return "".join(f"{_clock(begin)} {words}\n" for begin, _, words in _chapters(match, recording))


def _chapters(match: Mapping[str, Any], recording: int) -> list[tuple[float, float, str]]:
    """When each shot begins and ends in this recording, in order, and its words."""
    found = []
    for rack, one in enumerate(match["racks"], start=1):
        for index, shot in enumerate(one["shots"], start=1):
            time = shot.get("time") or {}
            begin = time.get("start", time.get("contact"))
            if begin is None or (shot.get("recording") or 0) != recording:
                continue
            end = max(time.get("still") or time.get("contact") or begin, begin + SHORTEST)
            found.append((begin, end, _chapter(match, rack, index, shot)))
    if not found:
        raise Refused(f"no shot of this match has its time in recording {recording + 1}")
    return sorted(found)


def _chapter(match: Mapping[str, Any], rack: int, index: int, shot: Mapping[str, Any]) -> str:
    seat, called = shot.get("player"), shot.get("called") or {}
    name = ((match.get("players") or {}).get(seat) or {}).get("name") or seat or ""
    what = shot.get("kind") or shot.get("declared") or "shot"
    if called.get("ball"):
        what = f"{ball_words(called['ball'])} {pocket_words(called.get('pocket'), match['discipline'])}".strip()
    return f"{rack}.{index} {name}: {what}"


def _escaped(words: str) -> str:
    return words.replace("&", "&amp;").replace("<", "&lt;").replace("-->", "--&gt;")


def _stamp(seconds: float) -> str:
    whole = int(seconds)
    return f"{whole // 3600:02d}:{whole // 60 % 60:02d}:{seconds - 60 * (whole // 60):06.3f}"


def _clock(seconds: float) -> str:
    """Hours only where there are some."""
    whole = int(seconds)
    hours, minutes = divmod(whole // 60, 60)
    return f"{hours}:{minutes:02d}:{whole % 60:02d}" if hours else f"{minutes}:{whole % 60:02d}"


CHAPTERS = {"vtt": as_vtt, "txt": as_times}  # of a recording, by the file's ending
