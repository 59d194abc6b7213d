"""The two pictures of the Bench: what the newest reading is seen in, and the curve so far beside the sheet."""

from collections.abc import Sequence

from even_beam.bench.judging.second_look import SecondLook
from even_beam.bench.measured import Measured
from even_beam.bench.records import Origin, Reading, Value
from even_beam.bench.run import ReadingState
from even_beam.figures.chart import Chart
from even_beam.figures.progress import dimming_chart, walk_chart
from even_beam.figures.spectrum import spectrum_chart
from even_beam.light import SpectrumError
from even_beam.workspace.bench import target as target_view
from even_beam.workspace.session.desk import Proposal, SessionDesk
from even_beam.workspace.shell.settings import Settings


def main_chart(desk: SessionDesk, measured: Measured | None, look: SecondLook | None, settings: Settings) -> Chart:
    """The spectrum where there is one; else what typed figures say: the walk, or level against dimmer."""
    if desk.target is not None:
        return target_view.chart(desk, desk.target, measured)
    in_doubt = look is not None and look.in_doubt
    if measured is not None and measured.computed is not None:
        spectrum = desk.logbook.spectra([measured.reading.id]).get(measured.reading.id)
        if spectrum is not None:
            try:
                return spectrum_chart(spectrum, measured.value("cct"))
            except SpectrumError:
                pass  # kept as read; there is only nothing to draw
    traces = desk.logbook.traces(measured.reading.id) if measured is not None and measured.reading.note else ()
    if traces and measured is not None:
        from even_beam.workspace.bench.traced import traced_chart  # seldom, and with all that waveforms need

        return traced_chart(traces[0], measured)
    terms = measured.terms if measured is not None else desk.next_terms
    source = measured.source_id if measured is not None else (desk.next_sources[0] if desk.next_sources else None)
    own = [m for m in desk.counted if m.source_id == source]
    if _varies(own, desk, "distance_m") or (measured is not None and len({m.terms.distance_m for m in own}) > 1):
        walk = [
            m
            for m in own
            if m.terms.level_pct == terms.level_pct and m.terms.zoom == terms.zoom and m.terms.cct_k == terms.cct_k
        ]
        return walk_chart(walk, settings.distance_unit, measured, look.expected if look else None, in_doubt)
    return dimming_chart([m for m in own if m.terms.cct_k == terms.cct_k], measured, in_doubt)


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
        values=(value,) if level else (),
    )
    measured = Measured(ReadingState(reading, terms))
    return main_chart(desk, measured, proposal.look, settings)


def _varies(own: Sequence[Measured], desk: SessionDesk, name: str) -> bool:
    return len({getattr(s.step.terms, name) for s in desk.state.steps}) > 1 and bool(own)


def curve_so_far(desk: SessionDesk, measured: Measured | None) -> Chart:
    """Level against dimmer for the lamp and white at work."""
    terms = measured.terms if measured is not None else desk.next_terms
    source = measured.source_id if measured is not None else (desk.next_sources[0] if desk.next_sources else None)
    one_level = len({s.step.terms.level_pct for s in desk.state.steps if s.step.source_ids == (source,)}) == 1
    own = [
        m
        for m in desk.counted
        if m.source_id == source
        and not one_level
        and m.terms.cct_k == terms.cct_k
        and m.terms.configuration == terms.configuration
        and m.terms.distance_m == terms.distance_m
        and m.terms.zoom == terms.zoom
    ]
    shown = None if one_level else measured
    return dimming_chart(own, shown, shown is not None and bool(shown.state.doubt))
