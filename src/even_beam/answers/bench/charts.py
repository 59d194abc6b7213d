"""The two pictures of the Bench: what the newest reading is seen in, and the curve so far beside the sheet."""

from even_beam.answers.bench import target as target_view
from even_beam.bench.judging.expectation import like
from even_beam.bench.judging.second_look import SecondLook
from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin, Reading, Terms, Value
from even_beam.bench.run import ReadingState
from even_beam.desk.session.desk import Proposal, SessionDesk
from even_beam.figures.chart import Chart
from even_beam.figures.progress import dimming_chart, walk_chart
from even_beam.figures.spectrum import spectrum_chart
from even_beam.light import SpectrumError
from even_beam.shell.settings import Settings


def main_chart(desk: SessionDesk, measured: Measured | None, look: SecondLook | None, settings: Settings) -> Chart:
    """The spectrum where there is one; else what typed figures say: the walk, or level against dimmer."""
    if desk.target is not None:
        return target_view.chart(desk, desk.target, measured)
    in_doubt = look is not None and look.in_doubt and look.quantity == "illuminance"
    if measured is not None and measured.computed is not None:
        spectrum = desk.logbook.spectra([measured.reading.id]).get(measured.reading.id)
        if spectrum is not None:
            try:
                return spectrum_chart(spectrum, measured.value("cct"))
            except SpectrumError:
                pass  # kept as read; there is only nothing to draw
    traces = desk.logbook.traces(measured.reading.id) if measured is not None and measured.reading.note else ()
    if traces and measured is not None:
        from even_beam.answers.bench.traced import traced_chart  # seldom, and with all that waveforms need

        return traced_chart(traces[0], measured)
    terms = measured.terms if measured is not None else desk.next_terms
    source = measured.source_id if measured is not None else (desk.next_sources[0] if desk.next_sources else None)
    walk = _alike(desk, source, terms, measured, _ALONG_A_WALK)
    marks = {m.terms.distance_m for m in walk} | ({terms.distance_m} if measured is not None else set())
    if (walk and _varies(desk, "distance_m")) or len(marks) > 1:
        return walk_chart(walk, settings.distance_unit, measured, look.expected if look else None, in_doubt)
    dimmed = _alike(desk, source, terms, measured, _ALONG_A_DIMMER)
    return dimming_chart(dimmed, measured, in_doubt)


def doubt_chart(desk: SessionDesk, proposal: Proposal, settings: Settings) -> Chart:
    """The typed figure in doubt among the others: on the walk, or on the dimming curve."""
    level = next((e.value for e in proposal.entries if e.quantity == "illuminance"), None)
    terms, sources = desk.next_terms, desk.next_sources
    value = Value("illuminance", level, Origin.TYPED)
    reading = Reading(
        id="proposal",
        session_id=desk.session.id,
        at=desk.now(),
        sequence=0,
        terms=terms,
        source_ids=sources,
        meter_id=desk.meter.id if desk.meter is not None else None,
        values=(value,) if level else (),
    )
    measured = Measured(ReadingState(reading, terms))
    return main_chart(desk, measured, proposal.look, settings)


_ALONG_A_WALK = frozenset({"distance_m", "placement"})
_ALONG_A_DIMMER = frozenset({"level_pct"})


def _alike(
    desk: SessionDesk, source: str | None, terms: Terms, measured: Measured | None, axes: frozenset[str]
) -> list[Measured]:
    """The readings of a picture: they differ in its axes alone, and one meter took them."""
    meter = measured.reading.meter_id if measured is not None else desk.meter.id if desk.meter is not None else None
    return [m for m in like(desk.counted, source, terms, but=axes) if m.reading.meter_id == meter]


def _varies(desk: SessionDesk, name: str) -> bool:
    return len({getattr(s.step.terms, name) for s in desk.state.steps}) > 1


def curve_so_far(desk: SessionDesk, measured: Measured | None) -> Chart:
    """Level against dimmer for the lamp at the terms at work."""
    terms = measured.terms if measured is not None else desk.next_terms
    source = measured.source_id if measured is not None else (desk.next_sources[0] if desk.next_sources else None)
    one_level = len({s.step.terms.level_pct for s in desk.state.steps if s.step.source_ids == (source,)}) == 1
    own = [] if one_level else _alike(desk, source, terms, measured, _ALONG_A_DIMMER)
    shown = None if one_level else measured
    return dimming_chart(own, shown, shown is not None and bool(shown.state.doubt))
