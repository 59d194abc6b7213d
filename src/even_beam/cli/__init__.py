"""The command line: every job that needs no window, and the window itself."""

from even_beam.cli import answers, camera, care, devices, handing_over, reading, sharing
from even_beam.cli.group import main

__all__ = ["answers", "camera", "care", "devices", "handing_over", "main", "reading", "sharing"]
