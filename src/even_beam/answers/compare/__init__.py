"""What Compare asks and shows."""
