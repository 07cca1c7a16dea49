"""Long work: in parts, in other processes or on a cluster, with progress, a heartbeat and a way to stop it."""
