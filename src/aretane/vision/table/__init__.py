"""The table in a picture: marks, the camera that sees them, cloth, and how the camera moved."""
