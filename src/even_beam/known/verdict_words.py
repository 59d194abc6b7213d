"""A verdict in the fewest words: the figure that decides, its limit, and what is too near to it or was not read."""

from even_beam.bench.tolerances import LIMITS
from even_beam.known.verdicts import Answer, Judgement, Verdict
from even_beam.words import notation


def figure_words(judged: Judgement) -> str:
    """The figure that was held against a limit, or why there is none."""
    if judged.value is None:
        if judged.answer is Answer.NOT_MEASURED:  # what was read and is held against nothing names its readings
            return "not asked" if judged.readings else "not read"
        return "as typed"
    decimals = {"duv": 4, "unit_stops": 2, "ageing_stops": 2}.get(judged.limit, 1)
    return notation.number(judged.value, decimals, signed=LIMITS[judged.limit].most)


def failing_words(judged: Judgement) -> str:
    """A limit that is not met: white off -13.3, limit 8."""
    return f"{judged.label} {figure_words(judged)}, limit {notation.plain(judged.bound, 4)}"


def reason_of(judged: Verdict) -> str:
    """What decides: the first limit that surely fails, else what is too near or was not read; empty where all is met
    as far as can be told."""
    outside = [j for j in judged.judgements if j.answer is Answer.OUTSIDE]
    sure = [j for j in outside if j.certain]
    if sure:
        return failing_words(sure[0])
    if outside:
        return f"{outside[0].label} too near to tell"
    unread = [j.label for j in judged.judgements if j.answer is Answer.NOT_MEASURED]
    if len(unread) == len(judged.judgements):
        return "not read"
    named = unread[0] if len(unread) == 1 else f"{len(unread)} limits"
    return f"{named} not read" if unread else ""
