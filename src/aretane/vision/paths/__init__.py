"""Where balls run while a shot is played."""
