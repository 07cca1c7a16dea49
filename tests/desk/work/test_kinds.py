"""Readings and choices on local processes and on a cluster by its address: the same, and gone on with."""

from __future__ import annotations

import time
import uuid
from dataclasses import replace

import pytest

from aretane.core.layout import Layout, State
from aretane.core.skill.hand import PRESETS as HANDS
from aretane.core.table import PRESETS
from aretane.demo.load import game_of
from aretane.desk.work import choices, kinds
from aretane.desk.work.choices import Drawn, Wanted, wanted_as_data, wanted_from
from aretane.desk.work.kinds import CHOICES, READING
from aretane.desk.work.reading import wanted_from as reading_from
from aretane.jobs.runner import Kind, Runner
from aretane.store import answers, jobs, readings
from tests.conftest import DEMO
from tests.jobs.test_pool import pool, processes  # noqa: F401
from tests.vision.films import film, steady

GAME = game_of("nine-ball")


@pytest.fixture
def reading(demo_match):
    entry = demo_match["recordings"][0]
    return {
        "sha256": entry["sha256"], "table": "pool-9ft", "ball_set": "pool", "picture": None, "pixel_aspect": 1.0,
        "marks": entry["views"][0]["camera"]["marks"], "marked_at": 0.0, "duration": 73.6, "size": [960, 540],
        "from": 0.0, "to": 16.0, "recording": 0,
    }  # fmt: skip


class Files:
    """Every recording is this file."""

    def __init__(self, path):
        self.path = lambda _: path


def runner_for(database, pool, path=DEMO / "rack.mp4"):  # noqa: F811
    """A server that does nothing but what this test asks for: kinds under names of its own."""
    own = uuid.uuid4().hex[:6]
    named = {one.name: f"{one.name}-{own}" for one in kinds.kinds(database, Files(path))}
    made = [Kind(named[one.name], one.run, one.kept) for one in kinds.kinds(database, Files(path))]
    return Runner(database, pool, made), named


def begun(database, scope, runner, kind, subject, arguments=None):
    database.write(lambda db: runner.ask(db, scope, kind, subject, arguments))
    runner.wake()


def begun_reading(database, scope, runner, named, wanted):
    reading_id = str(uuid.uuid4())
    database.write(lambda db: readings.begin(db, scope, GAME, reading_id, wanted))
    begun(database, scope, runner, named[READING], reading_id)
    return reading_id


def until(database, scope, kind, subject, good=lambda job, _: not job.going, patience=90):
    end = time.monotonic() + patience
    while time.monotonic() < end:
        with database.transaction() as db:
            job, found = jobs.find(db, scope, kind, subject), readings.find(db, scope, subject)
        if good(job, found):
            return job, found
        time.sleep(0.05)
    raise AssertionError(job)


def test_a_reading_stores_shots_as_it_goes_and_another_server_goes_on(app, database, scope, pool, reading):  # noqa: F811
    """Stopped after the first shot, taken up by a server that knows nothing but the store."""
    runner, named = runner_for(database, pool)
    subject = begun_reading(database, scope, runner, named, reading)
    until(database, scope, named[READING], subject, lambda job, found: found.found or not job.going)
    runner._closing.set()  # as when the server is stopped; its workers are still needed here
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("UPDATE job SET state = 'waiting' WHERE kind = %s AND state = 'running'", (named[READING],))
    again = Runner(database, pool, runner._kinds.values())
    again.wake()
    job, found = until(database, scope, named[READING], subject)
    again._closing.set()
    assert (job.state, job.said) == ("done", "")
    contacts = [shot["contact"] for shot in found.found]
    assert len(contacts) == 2, contacts
    for one, true in zip(contacts, (1.4, 12.16), strict=True):
        assert abs(one - true) < 0.7


def test_choices_are_the_same_on_both(app, database, scope, pool):  # noqa: F811
    layout = Layout(
        PRESETS["pool-9ft"], "nine-ball", {"cue": (1.5, 0.55), "8": (1.9, 0.9), "9": (0.6, 0.9)}, State(player="A")
    )
    wanted = Wanted("choices", layout, {}, (HANDS["professional"], HANDS["club"]), "right", ("glance",))
    runner, named = runner_for(database, pool)
    begun(database, scope, runner, named[CHOICES], wanted.hash, wanted_as_data(wanted))
    job, _ = until(database, scope, named[CHOICES], wanted.hash)
    runner._closing.set()
    assert job.state == "done", job.said
    with database.transaction() as db:
        body = answers.find(db, scope, wanted.hash)
    here = choices.options(wanted)
    assert [one["why"] for one in body["options"]["options"]] == [one["why"] for one in here["options"]]
    assert body["options"]["options"][0]["win"] == pytest.approx(here["options"][0]["win"])
    assert body["plan"]["run_out"] == pytest.approx(choices.plan(wanted)["run_out"])


@pytest.mark.parametrize("sort", ["gone", "no table"])
def test_what_cannot_be_read_ends_with_a_word(app, database, scope, processes, reading, tmp_path, sort):  # noqa: F811
    path = tmp_path / "gone.mp4"
    if sort == "no table":
        path = film(tmp_path / "talk.mp4", steady(40, 5), size=(960, 540))
    runner, named = runner_for(database, processes, path)
    subject = begun_reading(database, scope, runner, named, {**reading, "to": None, "duration": 8.0})
    job, found = until(database, scope, named[READING], subject)
    runner._closing.set()
    assert job.said, "a picture without a table is said in plain words"
    assert ("cannot be read" in job.said) == (sort == "gone")
    assert found.found == []


def test_what_was_stored_becomes_what_is_wanted(reading, tmp_path):
    made = reading_from({**reading, "picture": [0, 0, 960, 540]}, tmp_path / "x.mp4")
    assert made.picture == (0, 0, 960, 540)
    assert made.table.name == "pool-9ft"
    assert made.marks["corner:head-left"] == tuple(reading["marks"]["corner:head-left"])


def test_a_question_comes_back_from_its_row_as_it_went_in():
    import orjson

    from aretane.core.physics.stroke import Stroke

    layout = Layout(PRESETS["pool-9ft"], "nine-ball", {"cue": (1.5, 0.55), "9": (0.6, 0.9)}, State(player="B"))
    hands = (replace(HANDS["league"], plain=True), HANDS["club"])
    drawn = (Drawn("played", Stroke(2.0, aim=0.3, side=0.1, place=(0.4, 0.5)), "9", "foot-left"),)
    wanted = Wanted(
        "who", layout, {"call": True}, hands, "left", ("glance", "coarse"), drawn, (3, 1), True, ("jump",), 7,
        ("4", "2"),
    )  # fmt: skip
    again = wanted_from(orjson.loads(orjson.dumps(wanted_as_data(wanted))))
    assert again == wanted
    assert again.hash == wanted.hash
    assert replace(wanted, seed=8).hash != wanted.hash


def test_values_made_a_ball_at_a_time_and_racks_in_pieces_are_the_same():
    """What keeps parts short changes no number."""
    layout = Layout(PRESETS["pool-9ft"], "nine-ball", {"cue": (1.5, 0.55), "8": (1.9, 0.9), "9": (0.6, 0.9)})
    wanted = Wanted("choices", layout, {}, (HANDS["club"], HANDS["club"]), "right", ("glance",))
    stages = {}
    for count in (1, 2):
        more = choices.next_stage(wanted, "glance", stages)
        stages |= more
        assert (len(more), len(stages)) == (1, count)
    assert choices.next_stage(wanted, "glance", stages) is None
    outlook, told = choices.make_outlook(wanted, "glance", stages)
    assert told["maps"] == choices.make_outlook(wanted, "glance", {})[1]["maps"]
    task = choices.find_pots(outlook, wanted, "glance")[0]
    (option,), _ = choices.value(outlook, wanted, "glance", [task], None, False)
    pieces = [choices.racks_of(outlook, replace(wanted), "fine", option, at) for at in (0, 300)]
    assert [one.n for one in pieces] == [choices.RACKS, choices.RACKS]
    from aretane.core.planning.choices.played import PLAYED_SEED, racks_from

    both = racks_from(outlook, option, 400, PLAYED_SEED, 2, slice(0, 200))
    second = choices.racks_of(outlook, wanted, "fine", option, 100)
    assert round(both.p * 200) == round(pieces[0].p * 100) + round(second.p * 100)


def test_in_games_of_points_all_visits_are_one_part_and_the_plan_has_them_already():
    places = {"cue": (1.2, 0.6), "5": (2.0, 0.9), "6": (0.5, 0.4), "7": (1.7, 0.3)}
    layout = Layout(PRESETS["pool-9ft"], "straight-pool", places)
    wanted = Wanted("choices", layout, {}, (HANDS["club"], HANDS["club"]), "right", ("coarse",))
    *_, (_, body) = choices.steps(choices.Here(), wanted)
    (best,) = [one for one in body["options"]["options"] if one["played"]]
    plan = body["plan"]
    assert best["run"] == pytest.approx(plan["order"][0]["value"], abs=0.01)
    assert best["played"] == plan["run_out"]["n"]
    assert best["ball"] == plan["order"][0]["ball"]
    assert body["options"] == {**choices.options(wanted), "complete": True}, "the command line says the same"
