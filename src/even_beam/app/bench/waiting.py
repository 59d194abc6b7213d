"""A wait that the plan asks for is held: Enter during it asks once, and what was waited stands with the reading."""

from typing import TYPE_CHECKING

from even_beam.workspace.bench import view as bench_view

if TYPE_CHECKING:
    from even_beam.app.bench.station import BenchStation


class Waiting:
    """Whether the next reading must wait; asking twice reads at once."""

    def __init__(self, station: "BenchStation") -> None:
        self._station = station
        self._insisted: str | None = None

    def may_read(self) -> bool:
        """Whether to read now. Before its time it asks, and the second Enter at the same step reads."""
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
