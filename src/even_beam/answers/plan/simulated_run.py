"""A run without a window: an attentive simulated operator sets the lamps as the steps ask, and reads them."""

from collections.abc import Callable, Iterator
from datetime import datetime
from typing import TYPE_CHECKING

from even_beam.answers.plan.run_plan import RunPlan, begin_or_go_on, step_words
from even_beam.answers.plan.view import PlanError
from even_beam.bench.records import Source
from even_beam.desk.kit.form_error import FormError
from even_beam.desk.kit.lamp_form import LampForm
from even_beam.desk.session.document import Document
from even_beam.desk.session.instruments_at_hand import Instruments
from even_beam.instruments.simulated_lamps import LAMPS
from even_beam.shell.settings import Settings
from even_beam.words import notation

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


class SimulatedRun:
    """Runs a plan in a logbook; one that was broken off is taken up again, unless it shall begin `anew`.

    Raises `PlanError` for what cannot be planned or simulated.
    """

    def __init__(
        self, plan: RunPlan, logbook: "Logbook", clock: Callable[[], datetime], seed: int = 1, *, anew: bool = False
    ) -> None:
        self._stopped = False
        self._document = Document(logbook, Settings(), clock, Instruments(clock, seed=seed))
        sources = [self._source(*lamp) for lamp in plan.lamps]
        self._taken_up = begin_or_go_on(self._document, plan, sources, self._document.kit.meters(), anew=anew)
        self._desk = self._document.bench()

    def stop(self) -> None:
        """End after the step that is being read."""
        self._stopped = True

    def _source(self, nickname: str, simulated: str) -> Source:
        kit = self._document.kit
        found = kit.lamp_named(nickname)
        if found is None and simulated in LAMPS:
            try:
                found = kit.add_lamp(LampForm(nickname, LAMPS[simulated].kind, simulated=simulated))
            except FormError as error:
                raise PlanError(str(error)) from error
        if found is None or found.simulated not in LAMPS:
            raise PlanError(f"“{nickname}” is no simulated lamp; simulated are {', '.join(LAMPS)}")
        return found

    def lines(self) -> Iterator[str]:
        """Read every step; a line after each committed reading."""
        desk, document = self._desk, self._document
        if self._taken_up:
            yield self._taken_up
        while desk.step is not None:
            if self._stopped:
                yield f"stopped before {step_words(desk)}; the same command goes on from there"
                return
            meter = desk.meter
            if meter is None or not meter.simulated or set(desk.asked) - set(meter.quantities) - {"illuminance"}:
                yield f"left out, read by hand: {step_words(desk)}"
                desk.skip()
                continue
            again = desk.pending_doubt is not None
            document.set_simulated_lamps()
            words = step_words(desk)
            taken = desk.take(document.instruments.meter(meter).read())
            level = notation.light(taken.measured.value("illuminance"))
            verdict = taken.look.title if not taken.look.in_doubt else f"in doubt: {taken.look.text}"
            if taken.look.in_doubt and again:
                desk.keep_in_doubt(taken.measured.reading.id)  # read twice and the same answer: kept, and marked
                verdict = f"kept, {verdict}"
            yield f"{taken.measured.reading.sequence:4d}  {words}  {level}  {verdict}"
