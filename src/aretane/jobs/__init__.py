"""Long work: rows say what is to be done, a runner drives it, a pool of processes or a cluster does it."""
