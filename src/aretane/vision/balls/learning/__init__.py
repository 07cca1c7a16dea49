"""How the weights of the networks are found; no part of reading."""
