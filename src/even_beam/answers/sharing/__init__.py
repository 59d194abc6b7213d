"""Several benches, one record: logbooks merged and shared."""
