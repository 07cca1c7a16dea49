"""Files: exact round trips, and a broken or hostile one refused with the place named."""

from __future__ import annotations

import json

import orjson
import pytest
from hypothesis import given
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from aretane.core.errors import InputError
from aretane.formats.layout import layout_as_data, layout_from, read_layout
from aretane.formats.match import match_from, read_match
from aretane.formats.schema import parse, schema

LAYOUT = {
    "format": "aretane-layout", "version": 1, "table": "pool-9ft", "discipline": "nine-ball",
    "balls": {"cue": [0.62, 0.40], "3": [1.31, 0.96], "9": [2.20, 0.55]},
    "state": {"player": "A", "ball_in_hand": False, "group": None, "on": None, "push_out_allowed": False,
              "fouls": {"A": 0, "B": 0}, "points": {"A": 0, "B": 0}, "racks": {"A": 0, "B": 0},
              "free_ball": None, "touching": []},
}  # fmt: skip


@pytest.mark.parametrize("name", ["layout", "match"])
def test_the_published_schemas_are_schemas(name):
    Draft202012Validator.check_schema(schema(name))


def test_a_layout_reads_back_what_it_wrote():
    assert layout_as_data(layout_from(LAYOUT)) == LAYOUT


def test_state_and_each_of_its_keys_are_optional():
    bare = {key: value for key, value in LAYOUT.items() if key != "state"}
    assert layout_from(bare) == layout_from(LAYOUT)
    assert layout_from({**LAYOUT, "state": {"player": "B"}}).state.player == "B"


coordinate = st.floats(0.04, 1.2)


@given(st.tuples(coordinate, coordinate), st.sampled_from(["nine-ball", "ten-ball", "eight-ball"]))
def test_places_come_back_to_the_last_digit(place, discipline):
    data = {**LAYOUT, "discipline": discipline, "balls": {"cue": list(place), "9": [2.2, 1.21]}}
    again = layout_as_data(layout_from(parse(orjson.dumps(data))))
    assert again["balls"]["cue"] == list(place)


def changed(**more):
    return {**LAYOUT, **more}


@pytest.mark.parametrize(
    ("data", "field"),
    [
        (changed(table="pool-11ft"), "table"),
        (changed(discipline="croquet"), "discipline"),
        (changed(balls={"cue": [0.6, 0.4], "3": [1.31, 0.4, 1]}), "balls.3"),
        (changed(balls={"cue": [0.6, 0.4], "3": ["a", 0.4]}), "balls.3[0]"),
        (changed(balls={"cue": [0.6, 0.4], "12": [1, 1]}), "balls.12"),
        (changed(balls={"3": [1, 1]}), "balls.cue"),
        (changed(balls={"cue": [0.6, 0.4], "3": [0.61, 0.4]}), "balls.3"),
        (changed(balls={"cue": [0.6, 0.4], "3": [1e308, 0.4]}), "balls.3"),
        (changed(state={"ball_in_hand": "everywhere"}), "state.ball_in_hand"),
        (changed(state={"touching": [["cue", "7"]]}), "state.touching"),
        (changed(version=2), "version"),
        ({"format": "aretane-layout"}, "file"),
        ([1, 2, 3], "file"),
        ("nine-ball", "file"),
    ],
)
def test_a_wrong_layout_names_its_field(data, field):
    with pytest.raises(InputError) as refused:
        layout_from(data)
    assert refused.value.field == field
    assert len(str(refused.value).splitlines()) == 1


@pytest.mark.parametrize(
    "raw", [b"", b"{", b'{"balls": {"cue": [NaN, 1]}}', b"[" * 5000 + b"]" * 5000, b"\xff\xfe\x00", b"1e999"]
)
def test_broken_json_is_refused_in_one_line(raw):
    with pytest.raises(InputError):
        read_layout(raw)


def test_a_match_is_kept_as_it_was_with_unknown_keys(demo_match):
    strange = json.loads(json.dumps(demo_match))
    strange["league"] = {"season": 4}
    strange["racks"][0]["shots"][1]["weather"] = "indoors"
    assert read_match(orjson.dumps(strange)) == strange


def shots(demo_match):
    return json.loads(json.dumps(demo_match))


@pytest.mark.parametrize(
    ("change", "field"),
    [
        (lambda m: m["racks"][0]["shots"][1].update(kind="magic"), "racks[0].shots[1].kind"),
        (lambda m: m["racks"][0]["shots"][1]["called"].update(ball="12"), "racks[0].shots[1].called.ball"),
        (lambda m: m["racks"][0]["shots"][1]["potted"].append({"ball": "x"}), "racks[0].shots[1].potted[1].ball"),
        (lambda m: m["racks"][0]["shots"][1]["called"].update(pocket="middle"), "racks[0].shots[1].called.pocket"),
        (lambda m: m["racks"][0]["shots"][2]["layout_after"]["balls"].update({"9": [9, 9]}),
         "racks[0].shots[2].layout_after.balls.9"),
        (lambda m: m["racks"][0]["shots"][1].update(targets={"cue": {"zones": [{"outline": [[0, 0]]}]}}),
         "racks[0].shots[1].targets.cue.zones[0].outline"),
        (lambda m: m["recordings"][0].update(sha256="../../etc/passwd"), "recordings[0].sha256"),
        (lambda m: m.update(race_to=0), "race_to"),
        (lambda m: m.update(racks="all of them"), "racks"),
    ],
)  # fmt: skip
def test_a_wrong_match_names_its_place(demo_match, change, field):
    match = shots(demo_match)
    change(match)
    with pytest.raises(InputError) as refused:
        match_from(match)
    assert refused.value.field == field


def test_a_match_with_an_impossible_shot_is_refused_whole(demo_match):
    match = shots(demo_match)
    match["racks"][3]["shots"][2]["player"] = "B"
    with pytest.raises(InputError, match="order of play") as refused:
        read_match(orjson.dumps(match))
    assert refused.value.field == "racks[3].shots[2]"
