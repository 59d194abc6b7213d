"""Camera: what a camera sees of lamps: a chart in photographs, flicker, fades, walls and edges."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QGuiApplication, QKeyEvent
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QVBoxLayout

from even_beam.answers.bench.enter import lamp_at_terms, said_of
from even_beam.answers.camera import keeping
from even_beam.answers.camera.chart_page import ChartPage, Shot, chart_page, placed, read_shot
from even_beam.answers.camera.crops import ShownPart, shown_parts
from even_beam.answers.camera.fade_page import FadePage, fade_page, page_of_fades
from even_beam.answers.camera.fading import asked_in
from even_beam.answers.camera.flicker_page import FlickerPage, flicker_page, page_of
from even_beam.answers.camera.flickering import exposures_in
from even_beam.answers.camera.kept import Kept, kept_in
from even_beam.answers.camera.questions import Ask
from even_beam.answers.camera.standard_camera import beside_standard, sentence_of, spectra_of
from even_beam.answers.camera.surface_page import NOTHING, SurfacePage, edge_across, surface_page
from even_beam.app import keys
from even_beam.app.station import Host, Station, key_of
from even_beam.app.stations.camera.pages import ChartsPage, FadesPage, WaveformPage
from even_beam.app.stations.camera.points_view import Form
from even_beam.app.stations.camera.surfaces_page import SurfacesPage
from even_beam.app.widgets.ask_line import AskLine
from even_beam.app.widgets.headline import Headline
from even_beam.app.widgets.question_bar import QuestionBar
from even_beam.app.widgets.text import Column, Hairline, label, scrolled
from even_beam.bench.exposure import ExposureError
from even_beam.bench.observations import Observation
from even_beam.bench.planning.cautions import FLASHING
from even_beam.bench.terms import terms_line
from even_beam.camera.errors import CameraError
from even_beam.camera.sampling import Corners
from even_beam.camera.shutter import FilmExposure
from even_beam.desk.session.desk import SessionDesk
from even_beam.desk.session.document import Document
from even_beam.formats import FormatError
from even_beam.formats.kinds import FILMS, PHOTOS, WAVEFORMS, file_filter
from even_beam.logbook import LogbookError
from even_beam.shell.job import Job
from even_beam.shell.line import Line

_OF_CHARTS = frozenset({"L", "C", "B", "R", "S", "W", "P", "Del"})
"""Keys that do something for photographs alone."""

_PRESSED = frozenset("1234BCEKLOPRSVWX")


_HANDLES = "Arrows move a point, Shift by ten; Space goes to the next; Enter when all are placed; Esc leaves"


class CameraStation(Station):
    """Photographs, one waveform, fades, a wall. It reads them in a worker, and shows what they say."""

    def __init__(self, host: Host) -> None:
        super().__init__(host)
        self._ask = Ask.CHARTS
        self._begin()
        self._working: Job | None = None
        self.setAcceptDrops(True)
        self._build()
        self._show()

    def _begin(self) -> None:
        """Nothing opened yet."""
        self._shots: list[Shot] = []
        self._benchmark: Path | None = None
        self._at = 0
        self._balanced, self._repeats = True, False
        self._own: tuple[FilmExposure, ...] = ()
        self._fades: tuple[Path, ...] = ()
        self._asked_s: float | None = None
        self._fps: float | None = None
        self._part: Corners = ()
        self._pages: dict[Ask, ChartPage | FlickerPage | FadePage | SurfacePage] = {
            Ask.CHARTS: chart_page((), None, None, balanced=True),
            Ask.FLICKER: flicker_page(None),
            Ask.FADES: fade_page(()),
            Ask.SURFACES: NOTHING,
        }

    def _build(self) -> None:
        self._bar = QuestionBar(list(Ask))
        self._bar.asked.connect(self.ask)
        self.line = AskLine(self._back)
        self._headline = Headline()
        self._headline.told.connect(self.host.announce)
        self.charts, self.waveform, self.fades = ChartsPage(), WaveformPage(), FadesPage()
        self.surfaces = SurfacesPage()
        self.surfaces.photo.placed.connect(self._draw_line)
        self.surfaces.photo.left.connect(self._back)
        self.charts.picked.connect(self._pick)
        self.charts.photo.placed.connect(self._place)
        self.charts.photo.left.connect(self._back)
        self._notes = label("", "quiet", size="body", wrap=True)
        column = QVBoxLayout()
        column.setContentsMargins(24, 0, 24, 12)
        column.setSpacing(10)
        for widget in (
            self._bar,
            Hairline(),
            self.line,
            self._headline,
            self.charts,
            self.waveform,
            self.fades,
            self.surfaces,
            self._notes,
        ):
            column.addWidget(widget)
        column.addStretch(1)
        content = Column()
        content.setLayout(column)
        self._page = scrolled(content)
        frame = QHBoxLayout(self)
        frame.setContentsMargins(0, 0, 0, 0)
        frame.addWidget(self._page)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    # --- what is kept

    def show_document(self, document: Document) -> None:
        """Show what was kept last in another logbook, until something is opened."""
        self.document = document
        self._begin()
        self._show()
        path = document.logbook.path
        self._working = self.host.jobs.run("what cameras saw", lambda job: kept_in(path), self._show_kept, self._failed)

    def _show_kept(self, kept: Kept) -> None:
        """What was kept, but for what somebody opened meanwhile."""
        if kept.shots and not self._shots:
            self._shots, self._benchmark, self._at = list(kept.shots), kept.benchmark, min(1, len(kept.shots) - 1)
            self._compare()
        if kept.flickering is not None and not self._has(Ask.FLICKER):
            self._pages[Ask.FLICKER] = page_of(kept.flickering)
        if kept.fading is not None and not self._has(Ask.FADES):
            self._pages[Ask.FADES] = page_of_fades((kept.fading,))
        self._show()

    def _has(self, ask: Ask) -> bool:
        """Whether there is something to look at for a question."""
        page = self._pages[ask]
        if isinstance(page, FlickerPage):
            return page.found is not None
        if isinstance(page, SurfacePage):
            return page.photo is not None
        return bool(page.fadings) if isinstance(page, FadePage) else page.difference is not None

    # --- showing

    def ask(self, ask: Ask) -> None:
        """Ask another question."""
        self._ask = ask
        self._show()
        self._back()

    def _back(self) -> None:
        """The keyboard to what is at work on this page."""
        if self._ask is Ask.CHARTS and self._shots:
            self.charts.files.setFocus()
        elif self._ask is Ask.FLICKER and self.waveform.grid.isVisible():
            self.waveform.grid.setFocus()
        else:
            self.setFocus()

    def refresh(self) -> None:
        """Show it anew, in the present theme."""
        self._show()

    def _show(self) -> None:
        page = self._pages[self._ask]
        self._bar.show_question(self._ask, {})
        self._headline.show_lines(page.lines)
        self._notes.setText("\n".join(page.notes))
        self._notes.setVisible(bool(page.notes))
        for ask, widget in zip(Ask, (self.charts, self.waveform, self.fades, self.surfaces), strict=True):
            widget.setVisible(ask is self._ask)
        if isinstance(page, ChartPage):
            shot = self._shots[self._at] if self._shots else None
            self.charts.show_files(self._shots, self._benchmark, self._at)
            self.charts.show_page(page, shot, balanced=self._balanced)
        elif isinstance(page, FlickerPage):
            self.waveform.show_page(page)
        elif isinstance(page, FadePage):
            self.fades.show_page(page)
        else:
            self.surfaces.show_page(page)
        self.head_changed.emit()
        self.hints_changed.emit()

    def hints(self) -> tuple[keys.KeyHint, ...]:
        """The keys that do something on this page."""
        idle = {
            Ask.CHARTS: {"X", "E"},
            Ask.FLICKER: _OF_CHARTS | {"E"},
            Ask.FADES: _OF_CHARTS | {"E", "V"},
            Ask.SURFACES: _OF_CHARTS | {"X", "V"},
        }
        return tuple(hint for hint in keys.CAMERA if hint.key not in idle[self._ask])

    def head(self) -> tuple[tuple[str, ...], str]:
        """What is looked at, and which lamp it would be kept with."""
        page = self._pages[self._ask]
        if isinstance(page, ChartPage):
            name = _photographs(len(self._shots)) if self._shots else ""
        elif isinstance(page, FlickerPage):
            name = page.found.name if page.found is not None else ""
        elif isinstance(page, SurfacePage):
            name = page.path.name if page.path is not None else ""
        else:
            name = ", ".join(one.name for one in page.fadings)
        return ("Camera", name) if name else ("Camera",), ""

    # --- reading files

    def open_paths(self, paths: list[Path]) -> None:
        """Take files for the question that is asked."""
        if self._ask is Ask.CHARTS:
            self._open_photos([path for path in paths if path not in {shot.path for shot in self._shots}])
        elif self._ask is Ask.FLICKER:
            self._read_waveform(paths[0], self._own)
        elif self._ask is Ask.SURFACES:
            path = paths[0]
            self._work("read the photograph", lambda job: surface_page(path), self._show_surface)
        else:
            self._read_fades((*self._fades, *(path for path in paths if path not in self._fades)), self._asked_s)

    def _work(self, name: str, work: Callable[[Job], Any], done: Callable[[Any], None]) -> None:
        self.host.say(f"{name[:1].upper()}{name[1:]} …")
        self._working = self.host.jobs.run(name, work, done, self._failed)

    def _failed(self, error: Exception) -> None:
        self.host.say(f"{str(error).removesuffix('.')}. What was shown before still is")

    def _open_photos(self, paths: list[Path]) -> None:
        def work(job: Job) -> tuple[list[Shot], list[str]]:
            found, refused = [], []
            for path in paths:
                job.stop_if_cancelled()
                try:
                    found.append(read_shot(path))
                except FormatError as error:
                    refused.append(str(error))
            return found, refused

        def done(result: tuple[list[Shot], list[str]]) -> None:
            found, refused = result
            first = len(self._shots)
            self._shots += found
            if self._benchmark is None and found:
                self._benchmark = found[0].path
            if found:
                self._at = min(max(first, 1), len(self._shots) - 1)
            self._compare()
            self.host.say("; ".join(refused) if refused else f"{_photographs(len(found))} read")

        if paths:
            self._work("read photographs", work, done)

    def _compare(self) -> None:
        """What the photographs say, as they are now."""
        at = self._shots[self._at].path if self._shots else None
        self._pages[Ask.CHARTS] = chart_page(
            self._shots, self._benchmark, at, balanced=self._balanced, repeats=self._repeats
        )
        self._show()
        if self.isVisible() and not self.charts.photo.placing:
            self._back()

    def _pick(self, row: int) -> None:
        if 0 <= row < len(self._shots) and row != self._at:
            self._at = row
            self._compare()

    def _place(self, corners: Corners) -> None:
        if self.charts.photo.form is Form.PART:
            self._take_part(corners)
            return
        shot = self._shots[self._at]
        self._work("read the chart", lambda job: placed(shot, corners), self._placed)

    def _placed(self, shot: Shot) -> None:
        self._shots = [shot if one.path == shot.path else one for one in self._shots]
        self._compare()
        self.host.say(shot.problem or "The chart is read where its corners were placed")

    def _read_waveform(self, path: Path, own: tuple[FilmExposure, ...]) -> None:
        self._work("read the waveform", lambda job: flicker_page(path, own), self._show_waveform)

    def _show_waveform(self, page: FlickerPage) -> None:
        self._pages[Ask.FLICKER] = page
        self._show()
        self._back()

    def _read_fades(self, paths: tuple[Path, ...], asked_s: float | None) -> None:
        def done(page: FadePage) -> None:
            self._fades, self._asked_s = paths, asked_s
            self._pages[Ask.FADES] = page
            self._show()

        fps = self._fps
        self._work("read the fade", lambda job: fade_page(paths, asked_s, fps), done)

    # --- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Digits ask, letters do what the foot says."""
        key = key_of(event, _PRESSED) if event is not None else ""
        if event is not None and event.key() == Qt.Key.Key_Delete:
            key = "Del"
        if key:
            self.press(key)
        else:
            super().keyPressEvent(event)

    def press(self, key: str) -> None:
        """Do what a key does."""
        acts: dict[str, Callable[[], object]] = {
            "O": self._ask_open,
            "L": self._take_benchmark,
            "C": self._ask_corners,
            "P": self._ask_part,
            "E": self._ask_line,
            "B": self._toggle_balance,
            "R": self._toggle_repeats,
            "X": self._ask_figure,
            "V": self._ask_seen,
            "W": self._ask_white,
            "S": self._ask_spectra,
            "K": self._ask_keep,
            "Del": self._leave_out,
            "PgDn": lambda: self._scroll(1),
            "PgUp": lambda: self._scroll(-1),
            "Ctrl C": self._copy,
        }
        if key.isdigit():
            self.ask(list(Ask)[int(key) - 1])
        elif key in acts:
            acts[key]()

    def _scroll(self, pages: int) -> None:
        bar = self._page.verticalScrollBar()
        if bar is not None:
            bar.setValue(bar.value() + pages * bar.pageStep())

    def _ask_open(self) -> None:
        of_photos = self._ask in {Ask.CHARTS, Ask.SURFACES}
        offered = file_filter(PHOTOS) if of_photos else file_filter(WAVEFORMS, FILMS)
        names, _ = QFileDialog.getOpenFileNames(self.window(), "Open", "", offered)
        if names:
            self.open_paths([Path(name) for name in names])

    def _take_benchmark(self) -> None:
        if self._ask is Ask.CHARTS and self._shots:
            self._benchmark = self._shots[self._at].path
            self._compare()
            self.host.say(f"{self._shots[self._at].name} is the benchmark")

    def _ask_corners(self) -> None:
        if self._ask is Ask.CHARTS and self._shots:
            self.charts.photo.begin(Form.OUTLINE, self._shots[self._at].corners)
            self.host.say(_HANDLES)

    def _ask_part(self) -> None:
        """One part of all photographs, such as skin or a petal."""
        if self._ask is Ask.CHARTS and self._shots:
            width, height = self._shots[self._at].photo.size
            middle = ((0.4 * width, 0.4 * height), (0.6 * width, 0.6 * height))
            self.charts.photo.begin(Form.PART, self._part or middle)
            self.host.say(_HANDLES)

    def _ask_line(self) -> None:
        """A line across a shadow or the edge of a beam."""
        page = self._pages[Ask.SURFACES]
        if self._ask is Ask.SURFACES and isinstance(page, SurfacePage) and page.photo is not None:
            self.surfaces.photo.begin(Form.LINE, page.across)
            self.host.say(_HANDLES)

    def _show_surface(self, page: SurfacePage) -> None:
        self._pages[Ask.SURFACES] = page
        self._show()
        self._back()

    def _draw_line(self, across: Corners) -> None:
        page = self._pages[Ask.SURFACES]
        if isinstance(page, SurfacePage):
            self._work("look along the line", lambda job: edge_across(page, across), self._show_surface)

    def _take_part(self, corners: Corners) -> None:
        """Parts of the benchmark and of all others whose charts were read, side by side."""
        self._part = corners
        known = [s for s in self._shots if s.reading is not None]
        ordered = sorted(known, key=lambda s: s.path != self._benchmark)
        if not ordered or ordered[0].path != self._benchmark:
            self._failed(
                CameraError("the benchmark's chart is not read yet, so no part can be brought to its exposure")
            )
            return
        (a, b), (c, d) = ((round(x), round(y)) for x, y in corners)
        box, balanced = (min(a, c), min(b, d), max(a, c), max(b, d)), self._balanced
        charted = [(s.photo, s.reading) for s in ordered if s.reading is not None]

        def shown(parts: list[ShownPart]) -> None:
            self.charts.parts.show_parts(parts)
            self._compare()
            self.host.say("Side by side at equal exposure, with CIEDE2000 of their means from the benchmark's")

        self._work("cut parts", lambda job: shown_parts(charted, box, balanced=balanced), shown)

    def _toggle_balance(self) -> None:
        self._balanced = not self._balanced
        self._compare()
        if self._part:
            self._take_part(self._part)

    def _toggle_repeats(self) -> None:
        self._repeats = not self._repeats
        self._compare()
        self.host.say(
            "All but the benchmark are frames of one lamp: what they scatter by is told"
            if self._repeats
            else "Each photograph is of a lamp of its own"
        )

    def _leave_out(self) -> None:
        if self._ask is Ask.CHARTS and self._shots:
            gone = self._shots.pop(self._at)
            if gone.path == self._benchmark:
                self._benchmark = self._shots[0].path if self._shots else None
            self._at = min(self._at, max(len(self._shots) - 1, 0))
            self._compare()
            self.host.say(f"{gone.name} is left out; the file is as it was")

    def _typed(self, what: str, example: str, text: str, take: Callable[[str], None]) -> None:
        def taken(typed: str) -> None:
            try:
                take(typed)
            except (ValueError, CameraError, LogbookError) as error:
                self.line.complain(str(error))
                return
            self.line.close_line()

        self.line.open(what, example, text, taken)

    def _ask_figure(self) -> None:
        """The other thing that a question needs: a camera of one's own, or how long a fade was asked for."""
        if self._ask is Ask.FADES:
            self._typed(
                "seconds that were dialled; of a film its frames a second",
                "5; 25 fps",
                f"{self._asked_s:g}" if self._asked_s else "",
                self._take_seconds,
            )
        elif self._ask is Ask.FLICKER:
            self._typed("cameras", "24 fps 1/48 15ms; 25 fps 172.8°", "", self._take_cameras)

    def _take_seconds(self, typed: str) -> None:
        page = self._pages[Ask.FADES]
        self._asked_s, fps = asked_in(typed)
        self._fps = fps or self._fps
        if isinstance(page, FadePage) and page.fadings:
            self._pages[Ask.FADES] = page_of_fades(tuple(replace(f, asked_s=self._asked_s) for f in page.fadings))
            self._show()

    def _take_cameras(self, typed: str) -> None:
        page = self._pages[Ask.FLICKER]
        try:
            self._own = exposures_in(typed)
        except ExposureError as error:
            raise CameraError(str(error)) from error
        if isinstance(page, FlickerPage) and page.found is not None:
            found, own = page.found, self._own
            self._work("reckon the exposures", lambda job: page_of(found, own), self._show_waveform)

    def _ask_seen(self) -> None:
        kept = partial(self._keep_said, keeping.keep_seen)
        self._typed(f"seen on a camera. {FLASHING}", "24 fps, 1/48: none seen", "", kept)

    def _ask_white(self) -> None:
        kept = partial(self._keep_said, keeping.keep_white)
        self._typed("the white that the camera found by itself", "5400 K, tint +3", "", kept)

    def _keep_said(self, keep: Callable[[SessionDesk, str], Observation], typed: str) -> None:
        """Keep what somebody saw as an observation."""
        if self.document is not None:
            self.host.say(f"Kept: {keep(self.document.bench(), typed).sentence}")

    def _ask_spectra(self) -> None:
        """What the standard camera makes of the two lights, by spectra that were read."""
        if self._ask is Ask.CHARTS and self.document is not None:
            self._typed("lamp and benchmark as they were read", "Tansy, North window", "", self._take_spectra)

    def _take_spectra(self, typed: str) -> None:
        page = self._pages[Ask.CHARTS]
        if not isinstance(page, ChartPage) or page.difference is None or self.document is None:
            raise CameraError("there is no photograph to set beside it yet")
        lamp, benchmark = spectra_of(self.document.logbook, typed)
        words = sentence_of(beside_standard(page.difference, lamp, benchmark))
        self._pages[Ask.CHARTS] = replace(page, lines=(*page.lines, Line(words)))
        self._show()

    def _ask_keep(self) -> None:
        """With which lamp, at which terms: those that are next on the Bench, but for a file that is named after one."""
        if self.document is None or not self._has(self._ask):
            self.host.say("There is nothing to keep yet")
            return
        desk, page = self.document.bench(), self._pages[self._ask]
        file = page.difference.reading.name if isinstance(page, ChartPage) and page.difference is not None else ""
        named = next((s for s in desk.sources.values() if s.nickname.casefold() == Path(file).stem.casefold()), None)
        ids = desk.next_sources if named is None else (named.id,)
        name = desk.sources[ids[0]].nickname if ids and ids[0] in desk.sources else ""
        example, offered = "Tansy@cct=5600;level=50;distance=2 m", said_of(name, desk.next_terms)
        same = ids, desk.next_terms

        def keep(typed: str) -> None:
            self._keep(same if typed.strip() == offered.strip() else lamp_at_terms(desk, typed))

        self._typed("kept with the lamp, its terms after @", example, offered, keep)

    def _keep(self, of: keeping.LampAtTerms) -> None:
        """Keep what is shown; without a run the lamp and its terms are at work from then on."""
        if self.document is None:
            return
        desk, page = self.document.bench(), self._pages[self._ask]
        sources, terms = of
        if not desk.is_run:
            desk.free_source, desk.free_terms = next(iter(sources), None), terms
        if isinstance(page, SurfacePage) and page.path is not None:
            self.host.say(f"Kept: {keeping.keep_surface(desk, page, page.path, of).sentence}")
            return
        if isinstance(page, ChartPage) and page.difference is not None:
            shot = next(s for s in self._shots if s.reading is page.difference.reading)
            known = next(s for s in self._shots if s.path == self._benchmark)
            taken = keeping.keep_chart(desk, page.difference, shot, known, of)
        elif isinstance(page, FlickerPage) and page.found is not None:
            taken = keeping.keep_flicker(desk, page.found, of)
        elif isinstance(page, FadePage) and page.fadings:
            taken = keeping.keep_fade(desk, page.fadings[-1], of)
        else:
            return
        lamp = desk.name_of(taken.measured.reading.source_ids) if sources else "no lamp named"
        self.host.say(f"Kept with {lamp} · {terms_line(terms, self.host.settings().distance_unit)}")

    def undo(self) -> str | None:
        """Undo the last act of the session on the Bench: what was kept here is one."""
        return self.document.bench().undo() if self.document is not None else None

    def redo(self) -> str | None:
        """Do it again."""
        return self.document.bench().redo() if self.document is not None else None

    def _copy(self) -> None:
        clipboard = QGuiApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(self._pages[self._ask].plain)
            self.host.say("The answer is on the clipboard, with its figures")

    # --- files that are dropped

    def take_dropped(self, paths: list[Path]) -> None:
        """Open what was dropped, for the question that is asked."""
        self.open_paths(paths)


def _photographs(count: int) -> str:
    return "a photograph" if count == 1 else f"{count} photographs"
