"""Shipped icons (LICENSE beside them); the program's own is even-beam.svg."""
