"""Whatever is sent, the answer is a sentence: never an accident inside, never a half-written match."""

from __future__ import annotations

import copy
import json
import random
import uuid

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from aretane.demo.load import game_of
from tests.conftest import Client

GAME = game_of("nine-ball")

json_values = st.recursive(
    st.none() | st.booleans() | st.integers(-(2**53), 2**53) | st.floats(allow_nan=False) | st.text(max_size=12),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=8), inner, max_size=4),
    max_leaves=12,
)
PATHS = [
    "/games",
    "/games/import",
    f"/games/{GAME}/operations",
    f"/games/{GAME}/undo",
    "/read",
    "/camera",
    "/uploads",
]


@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.sampled_from(PATHS), json_values)
def test_any_json_anywhere_is_answered_with_a_sentence(app, path, body):
    answer = Client(app).post(path, body)
    assert 400 <= answer.status_code < 500, answer.text
    assert answer.json["message"]


def spoiled(value, dice):
    """The same document with one thing in it changed to something else."""
    strange = [None, -1, 1e300, "", "x" * 5000, [], {}, True, "cue", [1e9, -1e9], {"A": -5}]
    if isinstance(value, dict) and value and dice.random() < 0.85:
        key = dice.choice(list(value))
        value[key] = spoiled(value[key], dice)
        return value
    if isinstance(value, list) and value and dice.random() < 0.85:
        place = dice.randrange(len(value))
        value[place] = spoiled(value[place], dice)
        return value
    return dice.choice(strange)


def test_a_spoiled_shot_is_written_whole_or_not_at_all(app):
    """Each answer is either the changed match or a refusal; the match can be opened after each of them."""
    client = Client(app)
    match = json.loads(client.get(f"/games/{GAME}/export").data)
    match.pop("ledger", None)  # worked out, so it is not taken in
    answer = client.send("POST", "/games/import", data=json.dumps(match).encode()).json
    dice = random.Random(11)
    statuses = set()
    for _ in range(150):
        rack = dice.choice(answer["racks"])
        shot = dice.choice(rack["shots"])
        change = {
            "kind": "shot", "id": shot["id"], "parent": rack["id"], "seat": shot["seat"],
            "document": spoiled(copy.deepcopy(shot["document"]), dice),
        }  # fmt: skip
        body = {
            "id": str(uuid.uuid4()),
            "client": str(uuid.UUID(int=7)),
            "seen": 2**60,
            "label": "spoil",
            "changes": [change],
        }
        written = client.post(f"/games/{answer['id']}/operations", body)
        assert written.status_code in (200, 422), written.text
        statuses.add(written.status_code)
        assert client.get(f"/games/{answer['id']}").status_code == 200
        if written.status_code == 200:
            undo = {"id": str(uuid.uuid4()), "client": str(uuid.UUID(int=7)), "seen": 2**60}
            assert client.post(f"/games/{answer['id']}/undo", undo).status_code == 200
    assert statuses == {200, 422}  # the spoiling is neither always harmless nor always refused
    assert json.loads(client.get(f"/games/{answer['id']}/export").data) == match
    client.send("DELETE", f"/games/{answer['id']}")


def test_a_spoiled_match_is_imported_whole_or_not_at_all(app, demo_match):
    client = Client(app)
    dice = random.Random(5)
    before = client.matches()
    taken = []
    for _ in range(60):
        raw = json.dumps(spoiled(copy.deepcopy(demo_match), dice)).encode()
        answer = client.send("POST", "/games/import", data=raw)
        assert answer.status_code in (200, 422), answer.text
        if answer.status_code == 200:
            taken.append(answer.json["id"])
            assert client.get(f"/figures?game={answer.json['id']}").status_code == 200
    assert sorted(client.matches()) == sorted(before + taken)
    for game in taken:
        client.send("DELETE", f"/games/{game}")


def test_the_key_of_sessions_is_whole_and_one(tmp_path):
    """Also over an empty file, and when several servers begin at once."""
    from concurrent.futures import ThreadPoolExecutor

    from aretane.web.security import _secret

    path = tmp_path / "secret"
    path.touch()
    first = _secret(path)
    assert len(first) > 40
    assert oct(path.stat().st_mode)[-3:] == "600"
    other = tmp_path / "new" / "secret"
    with ThreadPoolExecutor(8) as pool:
        assert len(set(pool.map(lambda _: _secret(other), range(8)))) == 1
    assert [one.name for one in other.parent.iterdir()] == ["secret"]


def test_folders_with_people_in_them_are_the_owners_alone(app, tmp_path):
    from aretane.store.files import RecordingFiles

    files = RecordingFiles(tmp_path / "recordings")
    assert oct(files.folder.stat().st_mode)[-3:] == "700"
