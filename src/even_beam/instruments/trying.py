"""A driver put through what every driver must do."""

import time
from collections.abc import Iterator
from pathlib import Path

from even_beam.instruments.bench_file import LAMPS, METERS, BenchFile, Reached, drivers
from even_beam.instruments.protocols import InstrumentError, LampControl, MeterDriver
from even_beam.words.quantities import QUANTITIES

TRIED = "tried"


def try_meter(driver: MeterDriver) -> Iterator[str]:
    """Connect, zero, read twice, let go, and read once more after that; a line for each. Raises `InstrumentError` for
    what does not hold."""
    yield f"it says it is: {driver.connect()}"
    strangers = [name for name in driver.quantities if name not in QUANTITIES]
    if strangers:
        raise InstrumentError(f"it gives {', '.join(strangers)}, which are no quantities")
    yield f"it gives {', '.join(driver.quantities) or 'no figure'}{', and a spectrum' if driver.has_spectrum else ''}"
    driver.zero()
    yield "zeroed"
    for _ in range(2):
        began = time.monotonic()
        reading = driver.read()
        if more := set(reading.figures) - set(driver.quantities):
            raise InstrumentError(f"it gave {', '.join(sorted(more))}, of which it did not say so")
        if reading.spectrum is None and not reading.figures:
            raise InstrumentError("it gave nothing")
        figures = ", ".join(f"{name} {value:.5g}" for name, value in reading.figures.items())
        spectrum = f", {reading.spectrum.values.size} wavelengths" if reading.spectrum is not None else ""
        yield f"read in {time.monotonic() - began:.2f} s: {figures}{spectrum}"
    driver.close()
    driver.close()
    driver.read()
    yield "let go, and reached again"
    driver.close()


def try_lamp(control: LampControl) -> Iterator[str]:
    """Connect at rest, go to the ends of every term and back to rest, let go. Raises `InstrumentError`."""
    yield f"reached: {control.connect()}"
    for term, ends in control.limits.items():
        for end in ends:
            was_set = control.set({term: end})
            if abs(was_set[term] - end) > 0.01 * (ends[1] - ends[0]):
                raise InstrumentError(f"{term} {end:g} became {was_set[term]:g}")
        yield f"{term} from {ends[0]:g} to {ends[1]:g}"
        control.rest()
    try:
        control.set({"no such term": 1.0})
    except InstrumentError:
        yield "refuses what it has not"
    else:
        raise InstrumentError("it took a term that it has not")
    control.rest()
    control.close()
    control.close()
    yield "at rest, and let go"


def try_driver(driver: str, address: str, bench: BenchFile | None, folder: Path) -> Iterator[str]:
    """A driver by its name at an address, or an instrument of a bench file by its nickname. Raises
    `InstrumentError`."""
    if bench is not None and driver in bench.lamps:
        yield from try_lamp(bench.lamp(driver))
    elif bench is not None and driver in bench.meters:
        yield from try_meter(bench.meter(driver))
    elif driver in drivers(METERS):
        yield from try_meter(BenchFile({TRIED: Reached(driver, address)}, {}, folder).meter(TRIED))
    elif driver in drivers(LAMPS):
        yield from try_lamp(BenchFile({}, {TRIED: Reached(driver, address)}, folder).lamp(TRIED))
    else:
        there = ", ".join([*drivers(METERS), *drivers(LAMPS)])
        raise InstrumentError(f"there is no driver “{driver}”; there are: {there}")
