"""The options of the rules as a coach would be asked for them: what it is called, and its values in his words."""

from __future__ import annotations

from collections.abc import Mapping

Asked = tuple[str, Mapping[str, str]]

_PLAIN: Mapping[str, str] = {"true": "yes", "false": "no"}
_WINS = {"win": "wins the rack", "spot": "is spotted", "choice": "the breaker chooses", "loss": "loses the rack"}

ASKED: Mapping[str, Asked] = {
    "fouls": ("A moved object ball", {"cue-ball": "is no foul", "all-balls": "is a foul"}),
    "breaks": ("Next break", {"alternate": "in turn", "winner": "the winner's", "loser": "the loser's"}),
    "sets": ("Sets to win", {}),
    "handicap_a": ("Player A starts with", {}),
    "handicap_b": ("Player B starts with", {}),
    "touching": ("From a frozen ball one plays", {"through": "towards it too", "away": "away from it only"}),
    "three_fouls": ("Three fouls in a row", {"true": "cost the rack", "false": "cost no more than three"}),
    "push_out": ("Push-out after the break", _PLAIN),
    "three_point_break": ("Three balls must fall or pass on the break", _PLAIN),
    "three_point_line": (
        "They must pass",
        {"head-string": "the head string", "side-pockets": "the line of the side pockets"},
    ),
    "three_point_consequence": (
        "If they do not",
        {"choice": "the opponent chooses who plays", "foul": "it is a foul"},
    ),
    "call": ("Ball and pocket are called", _PLAIN),
    "money_ball_on_break": ("The winning ball on the break", _WINS),
    "money_ball_early": ("The winning ball before its turn", _WINS),
    "open_after_break": ("Table open after the break, whatever fell", _PLAIN),
    "eight_on_break": ("The eight on the break", _WINS),
    "eight_on_foul_break": ("The eight and a scratch on the break", {**_WINS, "choice": "the opponent chooses"}),
    "scratch_on_eight": ("A scratch at the eight", {"foul": "is a foul", "loss": "loses the rack"}),
    "in_hand": ("Ball in hand", {"anywhere": "anywhere", "behind-line": "behind the head string"}),
    "after_foul": ("After a foul", {"free-shot": "a free shot", "two-visits": "two visits"}),
    "group_on_break": ("Colours settled by the break", _PLAIN),
    "opponents_ball": ("Potting only the opponent's ball", {"foul": "is a foul", "turn": "ends the visit"}),
    "black_with_last": ("The black with the last own ball", {"loss": "loses the frame", "win": "wins the frame"}),
    "balls_past_middle": ("Balls past the middle on a dry break", {}),
    "reds": ("Reds", {}),
    "miss": ("The miss rule", {"true": "on", "false": "off"}),
}
