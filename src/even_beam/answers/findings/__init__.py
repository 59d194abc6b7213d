"""What is known of each fixture, and how it is told."""
