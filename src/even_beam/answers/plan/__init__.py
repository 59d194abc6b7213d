"""What Plan shows."""
