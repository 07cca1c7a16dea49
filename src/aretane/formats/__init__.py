"""Files in and out: what comes in is checked against the published schemas, what goes out reads back."""
