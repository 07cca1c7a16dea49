"""Games in which the order of the balls is free: every order at once, backwards over the sets that can be left."""
