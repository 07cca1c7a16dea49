"""The job itself: plain functions over plain dataclasses. No interface, no SQL, no files, no clock.

Units are metres, seconds, radians and kilograms; the table frame is described in `aretane.core.table`.
"""
