"""What a turn is worth to either player, by the discipline's way to look ahead; racks played on."""
