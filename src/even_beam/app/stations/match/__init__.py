"""The station that makes lamps agree."""
