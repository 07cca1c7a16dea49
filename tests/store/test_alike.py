"""Shots that are alike: the database's order against a search over all of them, and what counts as the same."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from sklearn.neighbors import NearestNeighbors

from aretane.core.review.alike import LIKE, UNITS, Likeness, apart, likeness_of
from aretane.demo.load import game_of
from aretane.store import alike, shot_figures
from aretane.store.club import first_scope
from aretane.store.shot_figures import Filter

SHOT = Likeness(0.4, 0.8, 0.5, False, 1.0, 0.6)


@pytest.fixture(scope="module")
def every(app, database):
    with database.transaction() as db:
        rows = shot_figures.chosen(db, first_scope(db), Filter(session=None))
    return {row.shot_id: likeness_of(row.figures) for row in rows if row.figures.tried and likeness_of(row.figures)}


def found(database, like, least=LIKE, many=500):
    with database.transaction() as db:
        return alike.alike(db, first_scope(db), like, "", least, many)


def test_the_database_has_the_same_neighbours_as_a_tree_of_all_shots(database, every):
    """Oracle: scikit-learn's tree over the properties in their units, for shots of which all of them are known."""
    whole = {key: one for key, one in every.items() if None not in (one.open, one.next_way)}
    assert len(whole) > 60
    like = next(iter(whole.values()))

    def point(one):
        return [getattr(one, name) / unit for name, unit in UNITS.items()] + [99.0 * one.middle]

    tree = NearestNeighbors(radius=LIKE - 1e-9).fit(np.array([point(one) for one in whole.values()]))
    (within,) = tree.radius_neighbors([point(like)], return_distance=False)
    near = {list(whole)[at] for at in within}
    n, made, rows = found(database, like)
    assert {row.shot_id for row in rows} & set(whole) == near
    assert made == sum(row.figures.made for row in rows) <= n == len(rows)


def test_the_likest_come_first_and_no_further_than_asked(database, every):
    like = list(every.values())[7]
    _, _, rows = found(database, like)
    distances = [apart(like, every[row.shot_id]) for row in rows]
    assert distances == sorted(distances)
    assert distances[0] == pytest.approx(0.0 if like.next_way is not None else 1.0, abs=1.0)
    assert distances[-1] < LIKE


def test_what_is_the_same_and_what_is_not():
    assert apart(SHOT, SHOT) == 0.0
    assert apart(SHOT, replace(SHOT, middle=True)) == math.inf
    assert apart(SHOT, replace(SHOT, cut_angle=0.4 + UNITS["cut_angle"])) == pytest.approx(1.0)
    assert apart(SHOT, replace(SHOT, next_way=None)) == 1.0
    assert apart(SHOT, replace(SHOT, cue_distance=1.4)) > LIKE, "another shot: sixty centimetres further"


def test_a_page_asks_for_it(client):
    game = client.get(f"/games/{game_of('nine-ball')}").json
    shot = next(one for one in game["racks"][0]["shots"] if (one["document"].get("called") or {}).get("ball"))
    told = client.get(f"/games/{game['id']}/shots/{shot['id']}/alike").json
    assert told["comparable"]
    assert told["rate"]["n"] == told["n"] >= len(told["shots"]) > 0
    assert all(one["shot_id"] != shot["id"] for one in told["shots"])
    opening = client.get(f"/games/{game['id']}/shots/{game['racks'][0]['shots'][0]['id']}/alike").json
    assert not opening["comparable"]
