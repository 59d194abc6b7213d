"""The open logbook, its files, and its readings gathered by lamp."""
