"""The demo: an invented club with a match of every discipline, one rack of them as a recording.

`stories/` tells the matches, `make.py` finds strokes that do what is told and writes what is shipped here
(matches/, rack.mp4, truth.json); `load.py` puts it in the store.
"""
