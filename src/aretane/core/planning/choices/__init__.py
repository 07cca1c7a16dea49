"""The choices at a table: found, valued, named, put in order."""
