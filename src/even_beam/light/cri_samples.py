"""The test samples of the colour rendering index in plain words: CIE 13.3-1995, table 1; R15 after JIS Z 8726."""

from collections.abc import Mapping

SAMPLE_WORDS: Mapping[int, str] = {
    1: "greyish reds",
    2: "dark greyish yellows",
    3: "yellow greens",
    4: "soft greens",
    5: "bluish greens",
    6: "light blues",
    7: "light violets",
    8: "light purples and pinks",
    9: "deep reds",
    10: "strong yellows",
    11: "strong greens",
    12: "deep blues",
    13: "fair skin",
    14: "leaves",
    15: "medium skin",
}
