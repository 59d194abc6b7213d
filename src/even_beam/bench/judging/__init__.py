"""Whether a reading fits the others."""
