"""A written plan beside what was played: worked out by hand."""

from types import SimpleNamespace

import pytest

from aretane.core.physics.stroke import Stroke
from aretane.core.review.ledger.booking import PARTS, Entry, Judged
from aretane.core.review.ledger.judging import Choice, Judgement
from aretane.core.review.ledger.plans import Passed, followed
from aretane.core.review.ledger.worth import Known


def choice(ball, intent="attack"):
    return Choice("pot", intent, ball, "foot-left", Stroke(1.5, 0.0), 0.8, 0.5, "no rail", (), "")


def entry(meant, best, decision, error=0.01, player="A", intent="attack"):
    """An entry whose choice cost `decision`, with what would have been best."""
    own, known = choice(meant), Known(0.5, 0.01)
    judged = Judgement(
        known, choice(best, intent), own, None, own, Known(decision, error), known, Known(0.0, 0.0), "full"
    )
    parts = dict.fromkeys(PARTS, 0.0) | {"decision": decision}
    errors = dict.fromkeys(PARTS, 0.0) | {"decision": error}
    return Entry("stroke", player, 0.5, 0.5, 0.5, "full", parts, None, errors, Judged(judged))


def shot(ball, *fell, intent="attack"):
    return SimpleNamespace(
        data={"called": {"ball": ball}, "intent": intent, "potted": [{"ball": one} for one in fell]}
    )


def told(order, shots, entries, begin=0, more=()):
    plans = [{"by": "Odile", "from": begin, "order": [{"ball": ball} for ball in order]}, *more]
    return followed({"plan": {"plans": plans}}, shots, entries, "eight-ball")[0]


def test_a_plan_that_was_played_and_what_its_choices_cost():
    shots = [shot("2", "2"), shot("5", "5"), shot("8", "8")]
    entries = [entry("2", "2", 0.0), entry("5", "5", -0.01), entry("8", "8", 0.0)]
    found = told(("2", "5", "8"), shots, entries)
    assert (found.kept, found.left_at, found.better) == (3, None, ())
    assert found.holding == pytest.approx(0.01)


def test_where_another_order_was_better_and_was_not_taken():
    shots = [shot("2", "2"), shot("5", "5"), shot("3")]
    entries = [entry("2", "5", -0.08), entry("5", "3", -0.03, error=0.05), entry("3", "3", 0.0)]
    found = told(("2", "5", "3"), shots, entries)
    assert found.better == (Passed(0, "5", 0.08),), "three points with as much uncertainty are no error"
    assert found.holding == pytest.approx(0.11)
    assert found.kept == 2


@pytest.mark.parametrize(("best", "intent"), [("2", "attack"), (None, "safety"), ("5", "safety")])
def test_another_stroke_or_a_safety_is_no_other_order(best, intent):
    found = told(("2",), [shot("2", "2")], [entry("2", best, -0.2, intent=intent)])
    assert found.better == ()
    assert found.holding == pytest.approx(0.2)


def test_a_plan_is_left_for_another_ball_at_its_cost():
    shots = [shot("2", "2"), shot("3", "3"), shot("5", "5")]
    entries = [entry("2", "2", 0.0), entry("3", "5", -0.12), entry("5", "5", -0.3)]
    found = told(("2", "5", "3"), shots, entries)
    assert (found.kept, found.left_at, found.left_for) == (1, 1, "3")
    assert found.cost == pytest.approx(0.12)
    assert found.holding == 0.0, "what came after it was left is not the plan's"


def test_the_other_players_balls_leave_the_table_and_not_the_plan():
    """The opponent's ball in a game that shares its balls: nobody left anything."""
    shots = [shot("2"), shot("5", "5"), shot("2", "2")]
    entries = [entry("2", "2", 0.0), entry("5", "5", -0.4, player="B"), entry("2", "2", 0.0)]
    found = told(("2", "5"), shots, entries)
    assert (found.kept, found.left_at, found.holding) == (1, None, 0.0)


def test_a_safety_is_not_the_plans_and_a_new_plan_takes_its_place():
    shots = [shot("3", intent="safety"), shot("2", "2")]
    entries = [entry("3", "3", -0.2), entry("2", "2", 0.0)]
    again = {"by": "Odile", "from": 1, "order": [{"ball": "2"}]}
    found = told(("5", "2"), shots, entries, more=(again,))
    assert (found.left_at, found.replaced, found.holding) == (None, 1, None)


def test_a_plan_of_a_rack_without_shots_is_still_one():
    assert told(("2", "5"), [], []).kept == 0
