"""Each metric in plain words: what it says, and where it can mislead."""

from typing import NamedTuple


class MetricWords(NamedTuple):
    """One sentence for what a metric says, one for its limits."""

    says: str
    limits: str


METRICS: dict[str, MetricWords] = {
    "white": MetricWords(
        "Colour temperature is that of the nearest black body; Duv is how far the light lies off that curve, green"
        " above and magenta below.",
        "Two lights of one temperature and tint can still show colours differently. Beyond |Duv| 0.05 there is no"
        " temperature.",
    ),
    "curves": MetricWords(
        "Daylight runs a little green of the black-body curve: the distance to each curve is given under its own name.",
        "A perfect D55 has Duv +0.0033 and is not green; which curve is right depends on what the lamp has to match.",
    ),
    "cri": MetricWords(
        "Ra is the mean score of eight pale samples against a reference of the same temperature; R9 is a deep red, R13"
        " and R15 are skins.",
        "An average hides single failures, and a lamp can be made for these samples. Good for rejecting, not for"
        " ranking.",
    ),
    "tm30": MetricWords(
        "Rf says how alike 99 colours look, Rg whether they are duller (below 100) or more vivid; the graphic shows"
        " which hues move where.",
        "It has an eye for an observer, not a camera. No single number of it is a verdict.",
    ),
    "ssi": MetricWords(
        "SSI says how alike two spectra are, whatever looks at them. 100 is the same spectrum.",
        "It means nothing without its reference. Good LEDs reach the 70s and 80s; a high Rf with a low SSI is normal.",
    ),
    "tlci": MetricWords(
        "TLCI says how much a colourist would have to correct after a broadcast camera; above 85 usually nothing.",
        "Its observer is one standard three-chip camera with its display. A single-chip cinema camera may see"
        " otherwise.",
    ),
    "eye": MetricWords(
        "As an adapted eye sees it: upper half under the reference, lower half under this lamp.",
        "No display is exact, and adaptation is never complete.",
    ),
    "camera": MetricWords(
        "As the standard camera shows it, balanced on each light: what is left no white balance repairs.",
        "Test your own camera before you trust it with skin.",
    ),
}
