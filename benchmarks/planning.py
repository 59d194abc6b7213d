"""How long a large plan takes to make: 105 whites at two levels of one lamp, with what may be dropped."""

from benchmarks.timing import best_of
from even_beam.bench.planning.protocols import Protocol
from even_beam.bench.planning.run_sheet import Bench, LampPlan, make_plan
from even_beam.bench.records import Meter

WANTED_S = 1.0


def report() -> list[str]:
    """A line with the time."""
    review = Protocol(
        "review", "everything", white_range_k=(2000.0, 12_400.0), white_step_k=100.0, levels_pct=(100.0, 25.0)
    )
    quick = Protocol("quick", "a little", whites_k=(5600.0, 3200.0), levels_pct=(100.0,))
    bench = Bench(Meter("k", "Spectrometer"), Meter("h", "Light meter", kind="light meter"))
    steps = len(make_plan([LampPlan("lamp")], [review, quick], bench).steps)
    seconds = best_of(lambda: make_plan([LampPlan("lamp")], [review, quick], bench), 3)
    return [
        f"105 whites at 2 levels, {steps} steps: planned in {1000.0 * seconds:.0f} ms (wanted: below"
        f" {1000.0 * WANTED_S:.0f} ms)"
    ]
