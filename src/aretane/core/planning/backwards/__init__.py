"""The simulator asked backwards: which stroke brings a ball where it should go."""
