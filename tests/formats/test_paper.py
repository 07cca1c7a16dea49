"""A sheet of counts: what it says, and where it is wrong."""

from __future__ import annotations

import pytest

from aretane.core.errors import InputError
from aretane.core.statistics.question import Count
from aretane.formats.paper import counts_from

HEAD = "date,player,opponent,game,session,pots made,pots missed,safeties held,safeties attacked\n"
LINE = "2026-11-01,Ilse Marwood,Tomas Verrall,nine-ball,,31,9,,\n"


def test_a_line_is_a_count_for_each_pair_that_is_told():
    more = "2026-11-02,Ilse Marwood,,nine-ball,solo,0,0,4,2\n"
    assert counts_from((HEAD + LINE + more).encode("utf-8-sig")) == [
        Count("Ilse Marwood", "Tomas Verrall", "2026-11-01", "nine-ball", "match", "pots", 40, 31),
        Count("Ilse Marwood", None, "2026-11-02", "nine-ball", "solo", "pots", 0, 0),
        Count("Ilse Marwood", None, "2026-11-02", "nine-ball", "solo", "safeties", 6, 4),
    ]


@pytest.mark.parametrize(
    ("sheet", "where", "words"),
    [
        ("", "line 1", "lacks date"),
        ("when,who\n", "line 1", "lacks date, player, game"),
        (HEAD.replace("opponent", "enemy") + LINE, "line 1", "has enemy"),
        (HEAD, "file", "no line with a count"),
        (HEAD + LINE + LINE.replace("2026-11-01", "1.11.2026"), "line 3", "no date"),
        (HEAD + LINE.replace("nine-ball", "darts"), "line 2", "no game"),
        (HEAD + LINE.replace(",31,", ",-1,"), "line 2", "no number of pots made"),
        (HEAD + LINE.replace(",31,", ",,"), "line 2", "no number of pots made"),
        (HEAD + LINE.replace("Ilse Marwood", ""), "line 2", "no player"),
        (HEAD + LINE.replace(",,31", ",party,31"), "line 2", "no session"),
        (HEAD + LINE + LINE, "line 3", "tells the pots of line 2 again"),
        (HEAD + LINE.replace("Tomas Verrall", "Ilse Marwood"), "line 2", "does not play against"),
        (HEAD + LINE.replace("Ilse Marwood", "Il\0se"), "line 2", "a name of other than"),
        (HEAD + LINE.replace("Ilse Marwood", "x" * 101), "line 2", "a name of other than"),
        (HEAD + LINE.replace("2026", "9999"), "line 2", "no day on which anybody has played"),
        (HEAD + LINE.replace("2026", "0001"), "line 2", "no day on which anybody has played"),
        (HEAD + LINE.replace("\n", "1,2,3\n"), "line 2", "more fields than the header"),
        (HEAD.replace("opponent", "player") + LINE, "line 1", "has player twice"),
        (HEAD + LINE.replace("Ilse", '"' + "y" * 200_000), "file", "a field has no end"),
    ],
)
def test_a_wrong_sheet_names_its_first_wrong_line(sheet, where, words):
    with pytest.raises(InputError) as problem:
        counts_from(sheet.encode())
    assert problem.value.field == where
    assert words in problem.value.message


def test_a_sheet_with_semicolons_is_the_same():
    sheet = (HEAD + LINE).replace(",", ";")
    assert counts_from(sheet.encode()) == counts_from((HEAD + LINE).encode())


def test_a_file_that_is_no_text_is_said():
    with pytest.raises(InputError, match="UTF-8"):
        counts_from(b"\xff\xfe\x00\x01")
