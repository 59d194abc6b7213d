"""Meters and lamps: small protocols, and the simulated stand-ins that ship with the program."""
