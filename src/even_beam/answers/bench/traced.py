"""The picture of a reading that was recorded against time."""

from even_beam.bench.measured import Measured
from even_beam.bench.seen import file_of
from even_beam.bench.traces import Trace
from even_beam.camera.errors import CameraError
from even_beam.camera.waveform import waveform_of
from even_beam.figures.chart import Chart
from even_beam.figures.trace import trace_chart
from even_beam.figures.waves import cycles_chart, level_chart


def traced_chart(trace: Trace, measured: Measured) -> Chart:
    """A power log or a warm-up with its end; light as it was recorded, of flicker some cycles."""
    if trace.quantity != "light":
        return trace_chart(trace)
    name, hz = file_of(measured.reading), measured.value("flicker_hz")
    if hz is not None:
        try:
            return cycles_chart(waveform_of(trace.seconds, trace.values, name=name), hz)
        except CameraError:
            pass  # kept as read; it is drawn as it is
    return level_chart(name, trace.seconds, trace.values)
