"""The sums of the trade: exposure carried over, lux-hours, a page beside a display."""

import pytest

from even_beam.bench.exposure import ExposureError
from even_beam.known.matching.sums import sum_of


def test_exposure_is_carried_over():
    """Check value 45 (common practice, no source): ISO 640, 1/30 to ISO 12 800, 1/250 is 1.26 stops more. Check value
    52: 120 fps at 180 degrees are 1/240 s."""
    assert "is 1.26 stops brighter" in sum_of("ISO 640 1/30 to ISO 12800 1/250")
    assert "is 1.26 stops darker" in sum_of("iso 12800, 1/250 -> iso 640, 1/30")
    assert "1/240 s" in sum_of("ISO 800 180° at 24 fps to ISO 800 180° at 120 fps")
    assert "is 2.32 stops darker" in sum_of("ISO 800 180° at 24 fps to ISO 800 180° at 120 fps")


def test_lux_hours_and_pages():
    """Check value 56 (common practice, no source): 80 cd/m2 are 251 to 296 lx on paper."""
    assert sum_of("50 lx 8 h") == "50 lx for 8 h are 400 lx h."
    assert "251 lx" in sum_of("80 cd/m2")
    assert "296 lx" in sum_of("80 nits")


@pytest.mark.parametrize("text", ["", "f/4; ISO 800; 1/50", "50 lx", "8 h", "eighty nits", "ISO 640 1/30"])
def test_other_lines_are_no_sums(text):
    assert sum_of(text) is None


def test_what_cannot_be_is_said():
    with pytest.raises(ExposureError):
        sum_of("ISO 640 soup to ISO 800 1/50")
