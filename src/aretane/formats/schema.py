"""The published JSON Schemas (docs/schemas) are the one source of what a file may say."""

from __future__ import annotations

import json
import math
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

import orjson
from jsonschema import Draft202012Validator
from jsonschema.exceptions import ValidationError, best_match

from aretane.core.errors import InputError

SCHEMAS = Path(__file__).resolve().parents[3] / "docs" / "schemas"
LARGEST_FILE = 20_000_000  # bytes; a fully reviewed match is about one


@cache
def schema(name: str) -> dict[str, Any]:
    """The schema of that name: `layout` or `match`."""
    loaded: dict[str, Any] = orjson.loads((SCHEMAS / f"{name}.json").read_bytes())
    return loaded


@cache
def _validator(name: str) -> Draft202012Validator:
    return Draft202012Validator(schema(name))


def parse(raw: bytes) -> Any:
    """JSON from bytes. NaN, infinities, broken text and oversized files are `InputError`."""
    if len(raw) > LARGEST_FILE:
        raise InputError("file", f"larger than {LARGEST_FILE // 1_000_000} MB")
    try:
        return orjson.loads(raw)
    except orjson.JSONDecodeError as problem:
        _name_what_is_no_number(raw)
        raise InputError("file", f"no valid JSON at line {problem.lineno}, column {problem.colno}") from None


def _name_what_is_no_number(raw: bytes) -> None:
    """Some writers put NaN or Infinity into JSON: say at which field."""
    try:
        lenient = json.loads(raw)
    except (ValueError, RecursionError):
        return
    for path, value in _leaves(lenient, ""):
        if isinstance(value, float) and not math.isfinite(value):
            raise InputError(path, "is not a finite number")


def _leaves(data: Any, path: str) -> Iterator[tuple[str, Any]]:
    if isinstance(data, dict):
        for key, value in data.items():
            yield from _leaves(value, f"{path}.{key}" if path else key)
    elif isinstance(data, list):
        for index, value in enumerate(data):
            yield from _leaves(value, f"{path}[{index}]")
    else:
        yield path or "file", data


def validate(name: str, data: Any) -> None:
    """Raise `InputError` at the place where `data` departs from the schema most tellingly."""
    problem = best_match(_validator(name).iter_errors(data))
    if problem is not None:
        raise InputError(_path(problem), _words(problem))


def _path(problem: ValidationError) -> str:
    path = ""
    for part in problem.absolute_path:
        path += f"[{part}]" if isinstance(part, int) else f"{'.' if path else ''}{part}"
    return path or "file"


def _words(problem: ValidationError) -> str:
    value = repr(problem.instance)
    shown = value if len(value) <= 60 else value[:57] + "..."
    if problem.validator == "required":
        return f"{problem.message.split(' is ')[0]} is missing"
    if problem.validator in ("enum", "const"):
        allowed = problem.validator_value
        options = ", ".join(str(v) for v in (allowed if isinstance(allowed, list) else [allowed]) if v is not None)
        return f"{shown} is not one of {options}"
    if problem.validator == "type":
        return f"{shown} must be of type {problem.validator_value}"
    return problem.message if len(problem.message) < 160 else f"{shown} is not allowed here"
