"""Tables, disciplines and cameras: the routes, and what they take and answer."""
