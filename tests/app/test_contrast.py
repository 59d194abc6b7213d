"""Contrast of every pair that is drawn, from the theme: text 4.5, marks and frames 3.0.

Source: WCAG 2.2, success criteria 1.4.3 and 1.4.11, and its definition of relative luminance.
"""

import numpy as np
import pytest

from even_beam.app.theme import PAPER, STUDIO


def luminance(colour: str) -> float:
    coded = np.array([int(colour[i : i + 2], 16) for i in (1, 3, 5)]) / 255.0
    linear = np.where(coded <= 0.04045, coded / 12.92, ((coded + 0.055) / 1.055) ** 2.4)
    return float(linear @ [0.2126, 0.7152, 0.0722])


def contrast(one: str, other: str) -> float:
    light, dark = sorted((luminance(one), luminance(other)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.mark.parametrize("tokens", [STUDIO, PAPER], ids=lambda t: t.name)
def test_text_can_be_read(tokens):
    for text in ("text", "secondary", "coming", "accent", "fault", "green", "magenta"):
        for ground in ("ground", "panel", "raised", "accent_ground"):
            if ground == "accent_ground" and text in {"fault", "green", "magenta", "coming"}:
                continue  # never drawn there
            found = contrast(getattr(tokens, text), getattr(tokens, ground))
            assert found >= 4.5, f"{text} on {ground}: {found:.2f}"


@pytest.mark.parametrize("tokens", [STUDIO, PAPER], ids=lambda t: t.name)
def test_marks_lines_and_the_cursor_are_seen(tokens):
    for colour in (*tokens.series, tokens.accent, tokens.coming, tokens.fault):
        assert contrast(colour, tokens.ground) >= 3.0, colour


@pytest.mark.parametrize("tokens", [STUDIO, PAPER], ids=lambda t: t.name)
def test_greys_are_neutral(tokens):
    """A coloured surround falsifies the judgement of colour (ISO 3664 asks for a neutral one)."""
    for name in ("ground", "panel", "raised", "hairline", "line", "text", "secondary", "coming"):
        red, green, blue = (int(getattr(tokens, name)[i : i + 2], 16) for i in (1, 3, 5))
        assert max(red, green, blue) - min(red, green, blue) <= 2, name
