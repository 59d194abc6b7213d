"""Colour differences between CIELAB colours."""

import numpy as np

from even_beam.light.spectra import FloatArray


def ciede2000(first: FloatArray, second: FloatArray) -> FloatArray:
    """CIEDE2000 between CIELAB colours, shapes (..., 3) broadcast to (...), with all parametric factors one.

    Source: ISO/CIE 11664-6; Sharma, Wu and Dalal (2005), Color Res. Appl. 30(1), whose notation this follows.
    """
    l1, a1, b1 = first[..., 0], first[..., 1], first[..., 2]
    l2, a2, b2 = second[..., 0], second[..., 1], second[..., 2]
    mean_chroma_7 = _seventh_power((np.sqrt(a1 * a1 + b1 * b1) + np.sqrt(a2 * a2 + b2 * b2)) / 2.0)
    g = 1.5 - 0.5 * np.sqrt(mean_chroma_7 / (mean_chroma_7 + 25.0**7))
    a1, a2 = a1 * g, a2 * g
    c1, c2 = np.sqrt(a1 * a1 + b1 * b1), np.sqrt(a2 * a2 + b2 * b2)
    h1, h2 = np.arctan2(b1, a1), np.arctan2(b2, a2)
    coloured = c1 * c2 > 0.0
    turn = 2.0 * np.pi
    dh = np.where(coloured, (h2 - h1 + np.pi) % turn - np.pi, 0.0)
    d_hue = 2.0 * np.sqrt(c1 * c2) * np.sin(dh / 2.0)
    d_light, d_chroma = l2 - l1, c2 - c1
    # the mean lies half-way along the shorter arc; of a grey and a colour it is the colour's (h is zero for grey)
    hue = np.where(coloured, h1 + dh / 2.0, h1 + h2)
    degrees = np.rad2deg(hue) % 360.0
    chroma, light = (c1 + c2) / 2.0, ((l1 + l2) / 2.0 - 50.0) ** 2
    rotation = np.deg2rad(60.0) * np.exp(-(((degrees - 275.0) / 25.0) ** 2))
    chroma_7 = _seventh_power(chroma)
    r = -2.0 * np.sqrt(chroma_7 / (chroma_7 + 25.0**7)) * np.sin(rotation)
    d_light = d_light / (1.0 + 0.015 * light / np.sqrt(20.0 + light))
    d_chroma = d_chroma / (1.0 + 0.045 * chroma)
    d_hue = d_hue / (1.0 + 0.015 * chroma * _hue_weight(hue))
    difference: FloatArray = np.sqrt(d_light**2 + d_chroma**2 + d_hue**2 + r * d_chroma * d_hue)
    return difference


def _seventh_power(value: FloatArray) -> FloatArray:
    square = value * value
    return square * square * square * value


def _hue_weight(hue: FloatArray) -> FloatArray:
    """The function T of the mean hue, its multiples of the angle built up from one sine and cosine."""
    cos_1, sin_1 = np.cos(hue), np.sin(hue)
    cos_2, sin_2 = 2.0 * cos_1 * cos_1 - 1.0, 2.0 * sin_1 * cos_1
    cos_3, sin_3 = cos_1 * cos_2 - sin_1 * sin_2, sin_1 * cos_2 + cos_1 * sin_2
    cos_4, sin_4 = 2.0 * cos_2 * cos_2 - 1.0, 2.0 * sin_2 * cos_2
    six, thirty, sixty_three = np.deg2rad([6.0, 30.0, 63.0])
    weight: FloatArray = 1.0 - 0.17 * (cos_1 * np.cos(thirty) + sin_1 * np.sin(thirty)) + 0.24 * cos_2
    weight += 0.32 * (cos_3 * np.cos(six) - sin_3 * np.sin(six))
    weight -= 0.20 * (cos_4 * np.cos(sixty_three) + sin_4 * np.sin(sixty_three))
    return weight
