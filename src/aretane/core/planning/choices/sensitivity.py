"""How the choice turns with the pot, the opponent, the player's own form and the match score."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.planning.choices.option import Options
from aretane.core.planning.outlook.equity import attack_value, in_match

EVEN_RACK = 0.5  # chance of either player to win a later rack (assumed)


@dataclass(frozen=True)
class Curve:
    """Attack and safety over the pot's chance: `pots` and the two values at each."""

    pots: tuple[float, ...]
    attack: tuple[float, ...]
    safety: tuple[float, ...]


def over_pot(found: Options, steps: int = 21) -> Curve | None:
    """The best attack and the best safety as the pot's chance goes from 0 to 1, what follows it kept."""
    if found.best_attack is None or found.best_safety is None:
        return None
    attack = found.options[found.best_attack].value
    if attack.after_pot is None or attack.after_miss is None:
        return None
    safety = found.options[found.best_safety].win
    pots = tuple(i / (steps - 1) for i in range(steps))
    return Curve(
        pots,
        tuple(attack_value(p, attack.after_pot, attack.after_miss) for p in pots),
        tuple(safety for _ in pots),
    )


@dataclass(frozen=True)
class Against:
    """The best attack and safety against one opponent, and from which pot on attack is right."""

    opponent: str
    attack: float | None
    safety: float | None
    break_even: float | None


def against(opponent: str, found: Options) -> Against:
    attack = found.options[found.best_attack].win if found.best_attack is not None else None
    safety = found.options[found.best_safety].win if found.best_safety is not None else None
    return Against(opponent, attack, safety, found.break_even_pot)


def ten_points_better(found: Options, more: float = 0.1) -> float | None:
    """The best attack's value if its pot came off that much more often."""
    if found.best_attack is None:
        return None
    value = found.options[found.best_attack].value
    if value.after_pot is None or value.after_miss is None or value.pot.p is None:
        return None
    return attack_value(min(1.0, value.pot.p + more), value.after_pot, value.after_miss)


@dataclass(frozen=True)
class Match:
    """Chance to win the race with the best attack and with the best safety; later racks are even."""

    needs: int
    other_needs: int
    attack: float | None
    safety: float | None


def for_match(found: Options, needs: int, other_needs: int) -> Match | None:
    """What the choice is worth in a race with these racks to go; None where no rack is won (points)."""
    if found.points or needs < 1 or other_needs < 1:
        return None

    def chance(index: int | None) -> float | None:
        return None if index is None else in_match(found.options[index].win, needs, other_needs, EVEN_RACK)

    return Match(needs, other_needs, chance(found.best_attack), chance(found.best_safety))
