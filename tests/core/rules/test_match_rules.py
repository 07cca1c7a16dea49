"""What holds round the racks: races, sets, handicaps, breaks, sessions, options, the coach's word."""

from __future__ import annotations

import copy

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from aretane.core.errors import ImpossibleShot, InputError
from aretane.core.rules.board import board
from aretane.core.rules.coach_word import as_the_coachs_word, impossible_places
from aretane.core.rules.disciplines import RULES
from aretane.core.rules.game import IllegalEntry, Seen, judge
from aretane.core.rules.options import OPTIONS, check_options, with_defaults
from aretane.core.rules.referee import referee
from tests.core.rules.sheets import brk, called, choice, entry, match, rack, says


def won(player):
    return [brk(player, "9")]


# Races, sets, handicaps, breaks


def test_a_race_ends_when_it_is_won_and_nothing_is_played_afterwards():
    assert referee(match("nine-ball", won("A"), won("A"), race_to=2)).winner == "A"
    with pytest.raises(ImpossibleShot, match="match is already over"):
        referee(match("nine-ball", won("A"), won("A"), won("B"), race_to=2))


def test_sets_begin_anew_and_are_counted():
    racks = [won("A"), won("A"), won("B"), won("B"), won("A"), won("A")]
    result = referee(match("nine-ball", *racks, race_to=2, rules={"sets": 2}))
    assert [dict(one.sets) for one in result.racks] == [
        {"A": 0, "B": 0}, {"A": 1, "B": 0}, {"A": 1, "B": 0}, {"A": 1, "B": 1}, {"A": 1, "B": 1}, {"A": 2, "B": 1},
    ]  # fmt: skip
    assert [dict(one.score) for one in result.racks[:3]] == [{"A": 1, "B": 0}, {"A": 2, "B": 0}, {"A": 0, "B": 1}]
    assert result.winner == "A"


def test_a_handicap_is_racks_in_pool_and_points_in_snooker():
    racks = referee(match("nine-ball", won("A"), race_to=3, rules={"handicap_a": 2}))
    assert (racks.score, racks.winner) == ({"A": 3, "B": 0}, "A")
    frame = rack("snooker", entry("A", "red-1", first_contact="red-1"), rules={"handicap_b": 21})
    assert frame.state.points == {"A": 1, "B": 21}
    game = referee(match("straight-pool", [brk("A", rails_after_contact=3)], race_to=50, rules={"handicap_a": 10}))
    assert game.score == {"A": 10, "B": 0}


def test_the_next_break_is_due_as_agreed():
    for how, due in (("alternate", "B"), ("winner", "A"), ("loser", "B")):
        assert referee(match("nine-ball", won("A"), rules={"breaks": how})).breaker == due
    assert referee(match("nine-ball", [brk("A")])).breaker == "A"


def test_options_take_only_their_values():
    for discipline, name, wrong in [
        ("nine-ball", "breaks", "sometimes"),
        ("nine-ball", "push_out", 1),
        ("snooker", "reds", 0),
        ("snooker", "reds", True),
        ("straight-pool", "sets", "two"),
    ]:
        with pytest.raises(InputError, match=f"rules.{name}"):
            check_options(discipline, {name: wrong})
    check_options("nine-ball", {"breaks": "loser", "house_rule": "no talking"})


@pytest.mark.parametrize("discipline", OPTIONS)
def test_every_default_is_one_of_its_values_and_every_option_says_what_it_means(discipline):
    check_options(discipline, {option.name: option.default for option in OPTIONS[discipline]})
    assert all(option.means for option in OPTIONS[discipline])
    assert len({option.name for option in OPTIONS[discipline]}) == len(OPTIONS[discipline])


# Sessions


def test_alone_nobody_waits_for_a_turn_and_a_dry_break_goes_on():
    sheet = rack("nine-ball", brk("A"), entry("A", "1", first_contact="1"), session="solo")
    assert (says(sheet)[1], sheet.rulings[0].after.choices) == ("A", ())
    missed = rack("nine-ball", brk("A"), entry("A", first_contact=None), session="solo")
    assert says(missed) == ("no-contact", "A", "anywhere")


def test_a_solo_run_that_is_over_is_closed_without_a_winner():
    sheet = match("nine-ball", [brk("A")], [brk("A")], session="solo")
    sheet["racks"][0]["closed"] = True
    result = referee(sheet)
    assert [one.over for one in result.racks] == [True, False]
    assert result.score == {"A": 0, "B": 0}


def test_both_sides_by_one_person_keep_the_turns_of_the_rules():
    with pytest.raises(ImpossibleShot, match="player B is at the table"):
        rack("nine-ball", brk("A"), entry("A", "1", first_contact="1"), session="both-sides")


# The coach's word


def test_a_ball_that_is_put_back_leaves_the_game_as_it_was():
    put_back = entry("B", "1", first_contact="1", flags=["put-back"])
    sheet = rack("nine-ball", brk("A"), put_back, entry("B", "1", first_contact="1"))
    assert sheet.state.points == {"A": 0, "B": 1}


def test_a_foul_that_only_the_review_saw_is_kept_beside_what_was_called():
    unseen = entry("B", "1", first_contact="1", fouls_seen=["double-hit"], called_at_table={"foul": None})
    ruling = rack("nine-ball", brk("A"), unseen).rulings[1]
    assert (ruling.fouls, ruling.seen, ruling.next) == ((), ("double-hit",), "B")


def test_an_overrule_may_set_everything_and_the_score_follows():
    word = {"foul": "push", "next": "B", "in_hand": "behind-line", "points": {"A": 3}, "note": "seen on film"}
    sheet = rack("straight-pool", brk("A", rails_after_contact=3), called("B", "1", overrule=word))
    assert says(sheet) == ("push", "B", "behind-line")
    assert sheet.state.points == {"A": 3, "B": -1}
    assert "seen on film" in sheet.rulings[-1].why
    assert rack("nine-ball", brk("A", overrule={"winner": "B", "note": "walked off"})).winner == "B"


IMPOSSIBLE = match(
    "eight-ball",
    [
        brk("A", "3"),
        called("A", "3"),
        called("A", "12"),
        called("B", "4"),
        choice("B", "re-rack"),
        entry("B", "8", call="8", first_contact="5"),
    ],
    [brk("B"), called("B", "1")],
)


def test_every_impossible_place_is_named_with_its_rule_and_the_rest_may_stand():
    places = impossible_places(IMPOSSIBLE)
    assert [(place.rack, place.shot) for place in places] == [(0, 1), (0, 3), (0, 4), (1, 1)]
    assert "not on the table any more" in places[0].message
    before = copy.deepcopy(IMPOSSIBLE)
    kept = as_the_coachs_word(IMPOSSIBLE)
    assert before == IMPOSSIBLE
    assert not referee(kept).trouble
    assert "order of play" in kept["racks"][0]["shots"][3]["overrule"]["note"]
    assert "overrule" not in kept["racks"][0]["shots"][2]


def test_a_breaker_against_the_order_and_a_match_that_goes_on_may_stand_too():
    late = match("nine-ball", won("A"), won("A"), won("A"), race_to=2, rules={"breaks": "alternate"})
    late["racks"][1]["breaker"] = "A"
    assert [place.rack for place in impossible_places(late)] == [1, 2]
    assert not impossible_places(as_the_coachs_word(late))


# Any sequence at all

PIECES = {
    name: sorted(rules.rack("A", with_defaults(name, {})).balls) for name, rules in RULES.items()
}  # every object ball of a discipline


@pytest.mark.parametrize("discipline", PIECES)
@settings(max_examples=60, deadline=None)
@given(data=st.data())
def test_any_sequence_of_lawful_entries_keeps_the_totals_right(discipline, data):
    """Balls are on the table, or gone; points are what was counted, less penalties, plus what fouls gave away."""
    options = with_defaults(discipline, {})
    rules = RULES[discipline]
    state = rules.rack("A", options)
    counted = {"A": 0, "B": 0}
    given_away = 0
    for _ in range(12):
        facts = drawn_entry(data, state)
        before = state
        try:
            ruling = judge(rules, state, facts, options)
        except IllegalEntry:
            continue
        state = ruling.after
        counted[before.player] += ruling.counted
        if discipline == "straight-pool" and ruling.fouls:
            first = ruling.fouls[0]
            given_away += 2 if "breaking-foul" in ruling.fouls else 16 if "three-fouls" in ruling.fouls else 1
            assert first
        if discipline == "snooker" and ruling.fouls:
            assert sum(state.points.values()) - sum(before.points.values()) in range(4, 8)
            given_away -= sum(state.points.values()) - sum(before.points.values())
        assert set(state.balls) <= set(PIECES[discipline])
        assert len(set(state.balls)) == len(state.balls)
        assert set(ruling.spotted) <= set(state.balls) or ruling.racked
        assert state.winner in (None, "A", "B")
        assert all(0 <= count <= 3 for count in state.fouls.values()) or discipline in (
            "snooker",
            "eight-ball",
            "blackball",
        )
        shown = board(discipline, state, options)
        assert shown.left >= 0
        if state.winner:
            break
        if ruling.racked and discipline not in ("straight-pool",):
            counted = dict(state.points)
    if discipline not in ("eight-ball", "blackball"):
        assert sum(state.points.values()) == sum(counted.values()) - given_away


def drawn_entry(data, state):
    if state.choices and data.draw(st.booleans()):
        return Seen(player=state.player, declared=data.draw(st.sampled_from(state.choices)))
    balls = list(state.balls)
    potted = tuple(data.draw(st.lists(st.sampled_from(balls), max_size=3, unique=True)))
    return Seen(
        player=state.player,
        kind="break" if state.phase == "break" else "pot",
        first_contact=data.draw(st.sampled_from(balls)) if potted else data.draw(st.sampled_from([*balls, None])),
        rails=data.draw(st.integers(0, 5)),
        potted=potted,
        scratch=data.draw(st.booleans()) and data.draw(st.booleans()),
        called=(potted[0], None) if potted and data.draw(st.booleans()) else None,
    )
