"""Answers that are files: printed pages to look at, tables to take away."""

from __future__ import annotations

from flask import Response

from aretane.formats.printed.pages import as_pdf

SORTS = {
    "json": "application/json", "csv": "text/csv", "vtt": "text/vtt", "txt": "text/plain", "ics": "text/calendar",
    "parquet": "application/vnd.apache.parquet",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "pdf": "application/pdf",
    "html": "text/html",
}  # fmt: skip


def printed(html: str, kind: str, name: str) -> Response:
    """A page as HTML or PDF, to look at."""
    return _file(as_pdf(html) if kind == "pdf" else html.encode(), kind, name, "inline")


def taken_away(data: bytes, kind: str, name: str) -> Response:
    """A file to keep; its name has ASCII letters alone."""
    return _file(data, kind, name.encode("ascii", "ignore").decode(), "attachment")


def _file(data: bytes, kind: str, name: str, how: str) -> Response:
    disposition = f'{how}; filename="{name}.{kind}"'
    return Response(data, mimetype=SORTS[kind], headers={"Content-Disposition": disposition})
