"""The shot lab: the routes, and what they take and answer."""
