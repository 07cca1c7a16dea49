"""Planned practice as a calendar file (iCalendar, RFC 5545)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from icalendar import Calendar, Event


@dataclass(frozen=True)
class Entry:
    """`begins` by the clock on the wall, wherever that is: the calendar that takes it in says which."""

    id: str
    begins: datetime
    minutes: int
    title: str
    words: str


def as_calendar(entries: Iterable[Entry], now: datetime | None = None) -> bytes:
    """All of them; the same entry taken in twice is there once, by its id."""
    calendar = Calendar()
    calendar.add("prodid", "-//Aretane//Practice//EN")
    calendar.add("version", "2.0")
    for one in entries:
        event = Event()
        event.add("uid", f"{one.id}@aretane")
        event.add("dtstamp", now or datetime.now(UTC))
        event.add("dtstart", one.begins)
        event.add("dtend", one.begins + timedelta(minutes=one.minutes))
        event.add("summary", one.title)
        event.add("description", one.words)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
