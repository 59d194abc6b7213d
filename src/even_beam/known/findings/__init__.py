"""What the readings of a fixture say, one function a question; each answer with the readings it came from."""
