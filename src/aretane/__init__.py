"""Aretane: review of recorded pool and snooker, measured from the picture of the table."""

__version__ = "0.1.0"

from aretane.settings import use_kernel_cache

use_kernel_cache()  # before anything can import the simulator
