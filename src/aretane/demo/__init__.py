"""The demo: an invented club, two invented players, a race to five, and one rack as a recording.

`make.py` makes what is shipped here (match.json, rack.mp4, truth.json); `load.py` puts it in the store.
"""
