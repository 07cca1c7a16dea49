"""The change log without the store: parts, what others did in the meantime, and what can be taken back."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from aretane.core.errors import Conflict
from aretane.store.changes import Part, applied, fits, merged, part_of

ROWS = st.one_of(st.none(), st.dictionaries(st.sampled_from("abcde"), st.integers(0, 3)))
SOME = st.dictionaries(st.sampled_from("abcde"), st.integers(0, 3))


@given(ROWS, ROWS)
def test_a_part_leads_from_the_one_to_the_other_and_its_reverse_back(before, after):
    part = part_of("shot", "x", before, after)
    assert applied(part, before) == after
    assert applied(part.reversed, after) == before
    assert fits(part, before)


@given(SOME, SOME, SOME)
def test_two_people_s_changes_make_one_row_or_a_conflict(seen, mine, theirs):
    """Against the definition: a field that only one of them changed has his value; both changing it alike is no
    clash.
    """
    others = [part_of("shot", "x", seen, theirs)]
    clash = any(
        mine.get(name) != seen.get(name)
        and theirs.get(name) != seen.get(name)
        and mine.get(name) != theirs.get(name)
        for name in "abcde"
    )
    if clash:
        with pytest.raises(Conflict):
            merged(theirs, mine, others, "shot:x")
        return
    found = merged(theirs, mine, others, "shot:x")
    for name in "abcde":
        changed = mine if mine.get(name) != seen.get(name) else theirs
        assert found.get(name) == changed.get(name)


def test_what_one_removed_is_not_written_back_by_the_other():
    gone = [part_of("shot", "x", {"a": 1}, None)]
    with pytest.raises(Conflict):
        merged(None, {"a": 2}, gone, "shot:x")
    assert merged(None, None, gone, "shot:x") is None
    with pytest.raises(Conflict):
        merged({"a": 2}, None, [part_of("shot", "x", {"a": 1}, {"a": 2})], "shot:x")


def test_a_change_of_another_field_does_not_keep_one_from_being_taken_back():
    mine = part_of("shot", "x", {"a": 1, "b": 1}, {"a": 2, "b": 1})
    now = {"a": 2, "b": 7}
    assert fits(mine.reversed, now)
    assert applied(mine.reversed, now) == {"a": 1, "b": 7}
    assert not fits(mine.reversed, {"a": 3, "b": 7})
    assert Part("shot", "x", {"a": 1}, {"a": 2}) == mine
