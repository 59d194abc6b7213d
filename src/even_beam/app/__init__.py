"""The window: PyQt6 Widgets, one package a station, shared widgets, theme and keys. No arithmetic here."""
