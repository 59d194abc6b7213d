"""What comes in from files."""
