"""The player's hand: how far from what was meant the cue goes."""
