"""What the helper at the lamp sees: the step, the figure and a bare verdict. What was expected stays with the
technician."""

from dataclasses import dataclass

from even_beam.answers.bench import view as bench_view
from even_beam.answers.bench.answers import answers_shown
from even_beam.answers.bench.view import Part
from even_beam.desk.session.desk import Proposal, SessionDesk, Taken
from even_beam.shell.settings import Settings


@dataclass(frozen=True, slots=True)
class ReaderText:
    """Lamp with what sits on it, the setting part by part, the newest figure, the verdict."""

    lamp: str = ""
    setting: tuple[Part, ...] = ()
    figure: str = ""
    verdict: str = ""
    in_doubt: bool = False


def reader_text(desk: SessionDesk, settings: Settings, taken: Taken | None, proposal: Proposal | None) -> ReaderText:
    """The words for the helper. A helper who hears what is expected reads it off the meter (common practice, no
    source)."""
    step = bench_view.prompt(desk, settings)
    figures = answers_shown(desk, settings, taken, proposal)
    figure = f"{figures[0].value} {figures[0].unit}".strip() if figures else ""
    in_doubt = desk.pending_doubt is not None or (proposal is not None and proposal.look.in_doubt)
    verdict = "read again" if in_doubt else "fits" if taken is not None and taken.look.expected is not None else ""
    lamp = " · ".join(part.text for part in step.above)
    return ReaderText(lamp, step.parts, figure, verdict, in_doubt)
