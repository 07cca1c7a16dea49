"""The library of layouts: the routes, and what they take and answer."""
