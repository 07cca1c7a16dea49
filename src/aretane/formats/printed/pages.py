"""HTML from a template, and PDF from the same HTML. Nothing is fetched: drawings and fonts are in the page."""

from __future__ import annotations

import base64
import logging
from functools import cache
from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemLoader, StrictUndefined

from aretane.core.errors import InputError, Refused

FOLDER = Path(__file__).parent
LETTERS = FOLDER / "fonts" / "inter.woff2"  # where something else is to be lettered the same


@cache
def _templates() -> Environment:
    return Environment(
        loader=FileSystemLoader(FOLDER), autoescape=True, undefined=StrictUndefined, trim_blocks=True,
        lstrip_blocks=True,
    )  # fmt: skip


def page(template: str, **content: Any) -> str:
    """A page as HTML, complete in itself."""
    return _templates().get_template(f"{template}.html").render(fonts=_fonts(), **content)


@cache
def _fonts() -> dict[str, str]:
    """The fonts as data, by their names (SIL Open Font License, see THIRD-PARTY)."""
    return {
        name: base64.b64encode((FOLDER / "fonts" / f"{file}.woff2").read_bytes()).decode()
        for name, file in (("Inter", "inter"), ("Source Serif 4", "source-serif-4"))
    }


def check_target(target: Path) -> None:
    """Raise `InputError` for a name that tells of no kind of page, and for a folder that is not there."""
    if target.suffix.lower() not in (".pdf", ".html"):
        raise InputError("-o", f"{target.name} must end in .pdf or .html")
    if not target.parent.is_dir():
        raise InputError("-o", f"there is no folder {target.parent}")


def written(html: str, target: Path) -> None:
    """The page as a file: PDF or HTML by the name's ending. Raises `Refused` where nothing can be written."""
    check_target(target)
    data = as_pdf(html) if target.suffix.lower() == ".pdf" else html.encode()
    try:
        target.write_bytes(data)
    except OSError as problem:
        raise Refused(f"{target} cannot be written: {problem.strerror}") from None


def as_pdf(html: str) -> bytes:
    from weasyprint import HTML  # loads its libraries, which a page as HTML does not need
    from weasyprint.urls import URLFetcher

    logging.getLogger("weasyprint").setLevel(logging.CRITICAL)  # it tells of every rule that paper has no use for
    nothing = URLFetcher(allowed_protocols=("data",))  # pages fetch nothing
    return bytes(HTML(string=html, url_fetcher=nothing).write_pdf(pdf_variant="pdf/ua-1"))
