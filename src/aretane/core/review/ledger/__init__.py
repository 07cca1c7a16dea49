"""The ledger of a match: what every shot was worth, and where the racks were won and lost."""
