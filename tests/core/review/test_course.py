"""What was seen to happen, beside what the layouts tell."""

from __future__ import annotations

from aretane.core.review.course import Happening, first_hit, rails_after, with_course
from aretane.core.review.proposal import Proposal

POT = (
    Happening(1.0, "strike", ("cue",)),
    Happening(1.2, "rail", ("cue",), "head"),
    Happening(1.4, "contact", ("cue", "3")),
    Happening(1.7, "rail", ("cue",), "left"),
    Happening(1.9, "rail", ("cue",), "foot"),
    Happening(2.0, "rail", ("5",), "foot"),
    Happening(2.2, "pocket", ("3",), "side-left"),
)


def test_balls_that_come_to_a_rail_after_the_first_contact_are_counted_once():
    assert first_hit(POT).balls == ("cue", "3")
    assert rails_after(POT) == 2
    assert rails_after(POT[:2]) is None
    assert first_hit(()) is None


def test_what_is_seen_is_asked_no_more():
    facts = {"first_contact": "5", "potted": [{"ball": "3"}], "called": {"ball": "3", "pocket": "foot-left"},
             "result": "made"}  # fmt: skip
    told = with_course(Proposal(facts, ("first_contact", "called", "intent")), POT)
    assert told.facts["potted"] == [{"ball": "3", "pocket": "side-left"}]
    assert told.facts["called"] == {"ball": "3", "pocket": "side-left"}
    assert told.facts["rails_after_contact"] == 2
    assert told.open == ("first_contact", "intent") or told.open == ("intent",)


def test_a_contact_fills_in_what_layouts_leave_open():
    told = with_course(Proposal({"first_contact": None, "potted": []}, ("first_contact",)), POT)
    assert (told.facts["first_contact"], told.open) == ("3", ())


def test_without_ways_nothing_changes():
    plain = Proposal({"first_contact": "5"}, ("called",))
    assert with_course(plain, ()) is plain
