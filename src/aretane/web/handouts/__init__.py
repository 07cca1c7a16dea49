"""Hand-outs: reports and set-up cards as files."""
