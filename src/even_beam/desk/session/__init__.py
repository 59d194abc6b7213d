"""A session at work: taken, committed, evaluated, judged, marked, undone."""
