"""From lamps and questions to a run sheet in a sensible order."""
