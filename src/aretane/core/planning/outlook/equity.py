"""Small arithmetic of a choice: from which pot on attack is right, and what a rack is worth in the match."""

from __future__ import annotations

from functools import lru_cache


def break_even(after_pot: float | None, after_miss: float | None, safety: float | None) -> float | None:
    """The pot chance p at which p after_pot + (1 - p) after_miss equals the safety's value; None outside 0..1."""
    if after_pot is None or after_miss is None or safety is None or abs(after_pot - after_miss) < 1e-12:
        return None
    p = (safety - after_miss) / (after_pot - after_miss)
    return p if 0.0 <= p <= 1.0 else None


def attack_value(pot: float, after_pot: float, after_miss: float) -> float:
    """The value of an attack whose pot succeeds with this chance."""
    return pot * after_pot + (1.0 - pot) * after_miss


@lru_cache(maxsize=4096)
def match_chance(needs: int, other_needs: int, rack: float) -> float:
    """Chance to win a race with `needs` racks to go against `other_needs`, each rack won with chance `rack`."""
    if needs <= 0:
        return 1.0
    if other_needs <= 0:
        return 0.0
    return rack * match_chance(needs - 1, other_needs, rack) + (1.0 - rack) * match_chance(
        needs, other_needs - 1, rack
    )


def in_match(win: float, needs: int, other_needs: int, rack: float) -> float:
    """Chance to win the match when this rack is won with chance `win` and the later ones with `rack`."""
    return win * match_chance(needs - 1, other_needs, rack) + (1.0 - win) * match_chance(
        needs, other_needs - 1, rack
    )
