"""What is handed over."""
