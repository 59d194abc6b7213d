"""The station for what a camera sees."""
