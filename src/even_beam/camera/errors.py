"""What a photograph, a waveform or a fade cannot give."""


class CameraError(Exception):
    """Something that cannot be answered from what was handed in; the message says why and what to do."""
