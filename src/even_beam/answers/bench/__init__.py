"""What the Bench shows and is told."""
