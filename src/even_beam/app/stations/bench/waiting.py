"""A wait that the plan asks for is held: Enter during it asks once, and what was waited stands with the reading.

A meter that a key reads looks at the light meanwhile, and ends the wait when the light has settled.
"""

from typing import TYPE_CHECKING

from PyQt6.QtCore import QTimer

from even_beam.answers.bench import view as bench_view
from even_beam.bench.settling import LOOK_EVERY_S, has_settled
from even_beam.instruments.protocols import InstrumentError, MeterReading

if TYPE_CHECKING:
    from even_beam.app.stations.bench.station import BenchStation


class Waiting:
    """Whether the next reading must wait; asking twice reads at once."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station
        self._insisted: str | None = None
        self._step: str | None = None
        self._looks: list[tuple[float, float]] = []
        self._looking = False
        self._asked = False
        self._timer = QTimer(station)
        self._timer.setInterval(round(1000.0 * LOOK_EVERY_S))
        self._timer.timeout.connect(self.look_at_light)
        self._timer.start()

    def may_read(self) -> bool:
        """Whether to read now. Before its time it asks, and the second Enter at the same step reads."""
        if self._looking:
            self._asked = True  # the meter is busy for a moment: the key counts when it is free
            return False
        desk = self._station.desk
        left = bench_view.seconds_to_wait(desk)
        step_id = desk.step.step.id if desk.step is not None else None
        if left <= 0.0 or self._insisted == step_id:
            self._insisted = None
            return True
        self._insisted = step_id
        self._station.tell(
            f"Still {bench_view.minutes_words(left)} to wait",
            "The plan lets the light settle first: a lamp that is not warm reads too high. Enter again reads all the"
            " same; how long it had stood is kept with the reading.",
            in_doubt=True,
        )
        return False

    def look_at_light(self) -> None:
        """Look at the light without keeping a reading, while a wait may end early."""
        station = self._station
        if self._looking or not station.is_free or not bench_view.may_end_early(station.desk):
            return
        desk, document = station.desk, station.document
        step, meter = desk.step, desk.meter
        if document is None or step is None or meter is None or self._insisted == step.step.id:
            return
        if self._step != step.step.id:
            self._step, self._looks = step.step.id, []
        document.set_simulated_lamps()
        try:
            instrument = document.instruments.meter(meter)
        except InstrumentError:
            return
        self._looking = True
        station.host.jobs.run(
            "look at the light", lambda job: instrument.read(), self._looked, lambda error: self._free()
        )

    def _looked(self, raw: MeterReading) -> None:
        desk = self._station.desk
        level = raw.figures.get("illuminance")
        if desk.step is not None and desk.step.step.id == self._step and level is not None:
            self._looks.append((desk.waited_s, level))
            if has_settled(*zip(*self._looks, strict=True)):
                self._insisted = self._step
                self._station.tell(
                    "The light has settled",
                    "It moves by less than 1 % in ten minutes now: Enter reads, the rest of the wait is not needed. How"
                    " long it had stood is kept with the reading.",
                )
        self._free()

    def _free(self) -> None:
        self._looking = False
        if self._asked:
            self._asked = False
            self._station.press("Enter")
