"""A reading as it is announced: its figures, the verdict, and what to set next.

Of what was expected only whether it fits: a helper within earshot would read it off the meter (common practice, no
source).
"""

from even_beam.answers.bench import view
from even_beam.answers.bench.answers import answers_shown
from even_beam.desk.session.desk import SessionDesk, Taken
from even_beam.shell.settings import Settings
from even_beam.words import notation

_FIGURES = 4


def reading_words(desk: SessionDesk, settings: Settings, taken: Taken, title: str) -> str:
    """A reading that was kept, under the title of its second look, and the next step where none is to be decided."""
    shown = answers_shown(desk, settings, taken, None)[:_FIGURES]
    figures = ", ".join(f"{one.label} {one.value} {one.unit}".strip() for one in shown)
    after = "" if desk.pending_doubt is not None else f" {_next_words(desk, settings)}"
    return f"{notation.sentence(figures or 'no figures')}. {title}.{after}"


def _next_words(desk: SessionDesk, settings: Settings) -> str:
    """What the hands must change for the next step; the whole step where nothing does."""
    if not desk.is_run:
        return ""
    step = view.prompt(desk, settings)
    parts = (*step.above, *step.parts)
    changing = [part.text for part in parts if part.changes]
    if changing:
        return f"Next: set {', '.join(changing)}."
    return f"Next: {', '.join(part.text for part in parts)}, nothing to change."
