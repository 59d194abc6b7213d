"""A lamp's page on screen: what is known of it in sentences, claims beside what they came to, facts, its record."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from even_beam.answers.findings.glance_words import Figure
from even_beam.answers.findings.lamp_page import ClaimRow, Known, LampPage
from even_beam.app.stations.kit.label_view import LabelView
from even_beam.app.stations.kit.lamp_picture import LampPicture
from even_beam.app.widgets.text import Column, Hairline, label
from even_beam.paper.label import Label


class LampPageView(QScrollArea):
    """Shows a page and scrolls it. `session_wanted` tells the id of a session in its record that was clicked."""

    session_wanted = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._page: LampPage | None = None
        self._label: Label | None = None

    @property
    def texts(self) -> str:
        """All that stands on the page, for whoever looks for a word."""
        page = self._page
        if page is None:
            return ""
        rows = [f"{c.name} {c.claimed} {c.came_to}" for c in page.claims]
        facts = [f"{name} {text}" for name, text in (*page.facts, *page.gear)]
        known = [f"{one.text} {one.terms}" for one in page.known or ()]
        large = [f"{one.label} {one.value} {one.unit} {' '.join(one.lines)}" for one in page.figures]
        return "\n".join(
            [page.name, page.line, *large, page.terms, *known, *rows, *facts, *(r.words for r in page.record)]
        )

    def show_page(self, page: LampPage | None, on_label: Label | None = None) -> None:
        """Show a page, with the lamp's label once it is made; nothing without one."""
        self._page, self._label = page, on_label
        column = QVBoxLayout()
        column.setContentsMargins(28, 16, 28, 16)
        column.setSpacing(6)
        if page is not None:
            self._fill(column, page)
        column.addStretch(1)
        inner = Column()
        inner.setLayout(column)
        self.setWidget(inner)

    def _fill(self, column: QVBoxLayout, page: LampPage) -> None:
        words = QVBoxLayout()
        words.setSpacing(2)
        words.addStretch(1)
        words.addWidget(label(page.name, "title", wrap=True))
        words.addWidget(label(page.line, "quiet", wrap=True))
        words.addStretch(1)
        head = QHBoxLayout()
        head.setSpacing(18)
        head.addWidget(LampPicture(page.photo, page.drawn_as, page.name))
        head.addLayout(words, 1)
        column.addLayout(head)
        column.addSpacing(8)
        if page.known is None:
            column.addWidget(label("reading its record …", "quiet"))
        elif not page.known:
            column.addWidget(label("Nothing was read of it yet.", "quiet"))
        if page.figures:
            column.addLayout(_figures(page.figures))
            column.addSpacing(6)
        if page.terms:
            column.addWidget(label(f"Unless a line says otherwise: {page.terms}.", "quiet", wrap=True))
            column.addWidget(Hairline())
        for one in page.known or ():
            column.addWidget(_known_row(one))
            column.addWidget(Hairline())
        column.addSpacing(10)
        below = QHBoxLayout()
        below.setSpacing(40)
        below.addLayout(_claims(page.claims), 3)
        below.addLayout(_facts("where it is from", page.facts), 2)
        column.addLayout(below)
        if page.gear:
            column.addSpacing(10)
            column.addLayout(_facts("to work with", page.gear))
        if self._label is not None:
            column.addSpacing(10)
            column.addWidget(label("its label, larger: L in the Report prints it", "coming"))
            column.addWidget(LabelView(self._label))
        column.addSpacing(10)
        column.addWidget(label("its record", "coming"))
        if not page.record:
            column.addWidget(label("not read yet", "quiet"))
        for line in page.record:
            link = QPushButton(line.words)
            link.setProperty("part", "link")
            link.setAutoDefault(False)
            link.setToolTip("Compare in that session")
            link.clicked.connect(lambda _=False, i=line.session_id: self.session_wanted.emit(i))
            row = QHBoxLayout()
            row.addWidget(link)
            row.addStretch(1)
            column.addLayout(row)


def _figures(figures: tuple[Figure, ...]) -> QHBoxLayout:
    """The large figures side by side, each with what follows from it."""
    row = QHBoxLayout()
    row.setSpacing(24)
    for one in figures:
        column = QVBoxLayout()
        column.setSpacing(1)
        column.addWidget(label(one.label, "coming"))
        column.addWidget(label(f"{one.value} {one.unit}".rstrip(), "title"))
        for line in one.lines:
            column.addWidget(label(line, "quiet", wrap=True))
        column.addStretch(1)
        row.addLayout(column, 1)
    return row


def _known_row(one: Known) -> QWidget:
    row = QWidget()
    layout = QHBoxLayout(row)
    layout.setContentsMargins(0, 3, 0, 3)
    layout.setSpacing(20)
    words = QVBoxLayout()
    words.setSpacing(1)
    words.addWidget(label(one.text, size="line", wrap=True))
    if one.terms:
        words.addWidget(label(one.terms, "coming", wrap=True))
    layout.addLayout(words, 1)
    layout.addWidget(label(one.rests_on, "coming"), 0, Qt.AlignmentFlag.AlignTop)
    return row


def _claims(claims: tuple[ClaimRow, ...]) -> QVBoxLayout:
    column = QVBoxLayout()
    column.setSpacing(4)
    column.addWidget(label("claimed, and what it came to", "coming"))
    grid = QGridLayout()
    grid.setHorizontalSpacing(14)
    grid.setColumnStretch(1, 1)
    grid.setColumnStretch(2, 1)
    for row, claim in enumerate(claims):
        grid.addWidget(label(claim.name, "quiet"), row, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(label(claim.claimed, wrap=True), row, 1)
        came_to = label(claim.came_to, "mark" if claim.marked else "quiet", wrap=True)
        grid.addWidget(came_to, row, 2)
    column.addLayout(grid)
    if not claims:
        column.addWidget(
            label("Nothing is claimed of it. Enter writes it down: 97 Ra; 2700 to 6500 K.", "quiet", wrap=True)
        )
    column.addStretch(1)
    return column


def _facts(title: str, facts: tuple[tuple[str, str], ...]) -> QVBoxLayout:
    column = QVBoxLayout()
    column.setSpacing(4)
    column.addWidget(label(title, "coming"))
    grid = QGridLayout()
    grid.setHorizontalSpacing(14)
    grid.setColumnStretch(1, 1)
    for row, (name, text) in enumerate(facts):
        grid.addWidget(label(name, "quiet"), row, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(label(text, wrap=True), row, 1)
    column.addLayout(grid)
    column.addStretch(1)
    return column
