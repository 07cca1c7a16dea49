"""Pictures and recordings: camera, frames, and the synthetic recording of the demo. Uses core only."""
