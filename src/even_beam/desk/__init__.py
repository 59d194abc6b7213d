"""What is worked on: the session with its steps and entries, and the Kit with its lines."""
