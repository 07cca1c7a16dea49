"""The verdict on a match over the interface."""
