"""The kinds of long work: what each does in parts, and what it stores on the way."""
