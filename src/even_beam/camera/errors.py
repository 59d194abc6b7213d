"""What a photograph, a waveform or a fade cannot give."""

from even_beam.errors import TellableError


class CameraError(TellableError):
    """Something that cannot be answered from what was handed in; the message says why and what to do."""
