"""Even Beam: a test bench for film lights."""

__version__ = "0.1.0"
