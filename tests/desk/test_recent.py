"""What is kept of a match that was at work on gives the same answers as computing it all anew."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import datetime

import pytest

from aretane.desk.recent import Recent, Replayed
from aretane.store.games import Fact, Match
from tests.conftest import DEMO, rack_change, shot_change

MATCHES = sorted((DEMO / "matches").glob("*.json"))


def stored(document):
    """A match of the match format as the store has it."""
    racks = tuple(
        (
            Fact("rack", f"r{n}", "m", float(n), {key: value for key, value in rack.items() if key != "shots"}),
            tuple(Fact("shot", f"s{n}-{i}", f"r{n}", float(i), shot) for i, shot in enumerate(rack["shots"])),
        )
        for n, rack in enumerate(document["racks"])
    )
    header = Fact("match", "m", "m", 0.0, {key: value for key, value in document.items() if key != "racks"})
    return Match("m", 1, 1, datetime(2026, 11, 28), header, racks)


@pytest.mark.parametrize("path", MATCHES, ids=lambda path: path.stem)
def test_an_edit_in_any_rack_gives_what_computing_it_all_gives(path):
    """A rack loses its last entry, another is gone: score, breaks, board and everything later follow."""
    match = stored(json.loads(path.read_bytes()))
    known = Replayed.of(match)
    for number, (rack, shots) in enumerate(match.racks):
        shorter = (*match.racks[:number], (rack, shots[:-1]), *match.racks[number + 1 :])
        gone = (*match.racks[:number], *match.racks[number + 1 :])
        more = (*match.racks, (replace(rack, id="new"), shots[:2]))
        for racks, since in ((shorter, number), (gone, number), (more, len(match.racks))):
            edited = replace(match, racks=racks, last_change=2)
            changed, fresh = known.changed(edited, since), Replayed.of(edited)
            assert changed.answer == fresh.answer
            assert changed.rows == fresh.rows


def test_a_change_of_the_heading_counts_from_the_first_rack_on():
    """Rules and the race are the heading's: what was replayed under the old ones does not stay."""
    match = stored(json.loads(MATCHES[0].read_bytes()))
    for change in ({"race_to": 2}, {"session": "solo"}, {"start": {"score": {"A": 1, "B": 0}}}):
        header = replace(match.header, document={**match.header.document, **change})
        edited = replace(match, header=header, last_change=2)
        changed, fresh = Replayed.of(match).changed(edited, 0), Replayed.of(edited)
        assert changed.answer == fresh.answer, change
        assert changed.rows == fresh.rows


def test_another_clients_change_is_seen(client, app, database, scope):
    """What is kept here is not believed when the store has moved on."""
    game = client.new_match()
    rack = rack_change(game)
    game = client.change(game, rack).json
    elsewhere = Recent()
    with database.transaction() as db:
        before = elsewhere.find(db, scope, game["id"])
        elsewhere.keep(before)
        assert elsewhere.find(db, scope, game["id"]) is before
    assert client.change(game, shot_change(rack, 0, player="A", kind="break")).status_code == 200
    with database.transaction() as db:
        after = elsewhere.find(db, scope, game["id"])
    assert [len(one["shots"]) for one in after.answer["racks"]] == [1]


def test_a_rack_put_between_others_and_one_moved_are_counted_in_order(client):
    game = client.new_match()
    first, last = rack_change(game, 0), rack_change(game, 2)
    game = client.change(game, first, last).json
    game = client.change(game, shot_change(last, 0, player="A", kind="break", potted=[{"ball": "1"}])).json
    between = rack_change(game, 1)
    game = client.change(game, between).json
    assert [rack["id"] for rack in game["racks"]] == [first["id"], between["id"], last["id"]]
    game = client.change(game, {**last, "seat": -1}).json
    assert [rack["id"] for rack in game["racks"]] == [last["id"], first["id"], between["id"]]
    assert client.get(f"/games/{game['id']}").json == game
    asked = f"session=lesson&game={game['id']}&by=break%20game&name=nine-ball"
    shots = client.get(f"/figures/shots?{asked}").json["shots"]
    assert [(row["figures"]["rack"], row["figures"]["shot"]) for row in shots] == [(0, 0)]


def test_a_deleted_match_is_not_kept(client, app):
    game = client.new_match()
    assert client.get(f"/games/{game['id']}").status_code == 200
    assert client.send("DELETE", f"/games/{game['id']}").status_code == 204
    assert client.get(f"/games/{game['id']}").status_code == 404
