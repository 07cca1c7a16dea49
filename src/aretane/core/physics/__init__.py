"""The simulator: one shot, event by event, in closed form between the events."""
