"""Pages for the hand: one template each for page, file and print."""
