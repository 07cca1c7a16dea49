"""Everything that can go wrong by no fault of the code, as one family.

    Problem                    said to the person in `str()`, in his words
    ├── InputError             a value from outside that cannot be used; names its field
    │   ├── ImpossibleShot     a shot that cannot have happened as recorded
    │   ├── ImpossibleMatch    all of these in a match
    │   ├── Known              a match that is there already
    │   └── Taken              an id of something new that is there already
    ├── NotFound               no such thing in this club
    ├── Conflict               somebody else changed the same thing
    ├── Refused                what is asked cannot be done as things stand
    └── Unavailable            the database or its server does not answer; nothing was written
        ├── Crowded            too many wait for the same already
        └── CannotStart        the application cannot be started here

Nothing else is caught by kind: any other exception is a defect, logged with its trace.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any


class Problem(Exception):
    """Any of them."""


class InputError(Problem, ValueError):
    """A value from outside that cannot be used.

    `field` is a path such as ``balls.3`` or ``racks[0].shots[4].potted``; `message` is one sentence
    for the person who wrote the value.
    """

    def __init__(self, field: str, message: str) -> None:
        super().__init__(f"{field}: {message}" if field else message)
        self.field = field
        self.message = message

    def __reduce__(self) -> tuple[object, ...]:
        """Carried over from a worker as it is; the default would call it with one argument."""
        return InputError, (self.field, self.message)


class ImpossibleShot(InputError):
    """A shot that cannot have happened as recorded. `rule` names what it breaks."""

    def __init__(self, rack: int, shot: int, rule: str, message: str) -> None:
        super().__init__(f"racks[{rack}].shots[{shot}]", f"{message} ({rule})")
        self.rack = rack
        self.shot = shot
        self.rule = rule


class ImpossibleMatch(InputError):
    """A match that cannot have happened as recorded; `places` are all its impossible entries."""

    def __init__(self, places: Sequence[ImpossibleShot]) -> None:
        more = f", and {len(places) - 1} more" if len(places) > 1 else ""
        super().__init__(places[0].field, places[0].message + more)
        self.places = list(places)


class Taken(InputError):
    """The id of something new is there already, perhaps by the same request that was sent twice."""

    def __init__(self) -> None:
        super().__init__("id", "is taken; make another")


class Known(InputError):
    """A match that is there already: the same one, by its own id. `games` are those that there are."""

    def __init__(self, title: str, games: Sequence[str]) -> None:
        super().__init__("id", f"“{title}” is here already: replace it, take this one in as a copy, or leave it")
        self.games = list(games)


class NotFound(Problem, LookupError):
    """There is no such thing in this club: a row of another club's is not told from one that never was."""

    def __init__(self, subject: str) -> None:
        super().__init__(f"there is no such {subject} (any more)")


class Conflict(Problem):
    """Somebody else changed the same thing. `theirs` maps "kind:id" to what is stored now (or None)."""

    def __init__(self, theirs: Mapping[str, Any]) -> None:
        super().__init__("somebody else changed this in the meantime")
        self.theirs = dict(theirs)


class Refused(Problem):
    """What is asked cannot be done as things stand: nothing to undo, no room on the disk."""


class Unavailable(Problem):
    """The database cannot be reached; nothing of the request was written."""


class Crowded(Unavailable):
    """Too many wait already; `seconds` is about how long it takes until they are through."""

    def __init__(self, waiting: int, seconds: float) -> None:
        super().__init__(f"{waiting} questions wait already; try again in about {max(1, round(seconds))} seconds")
        self.seconds = seconds


class CannotStart(Unavailable):
    """The application cannot be started here; one line says why."""
