"""Several benches: merging another logbook, and sharing with a hub."""
