"""What eye and ear say: a subject, a quick pick, a note, photos. Kept as an opinion."""

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QWidget,
)

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.observations import OPINION, PICKS
from even_beam.formats.kinds import SNAPSHOTS, file_filter

_THUMBNAILS, _SIDE = 5, 110


class ObservationDialog(Sheet):
    """Asks what was seen or heard; `subject`, `finding`, `note` and `photos` hold the answer."""

    def __init__(self, parent: QWidget | None, of: str, before: list[str], thumbnails: list[bytes]) -> None:
        super().__init__(parent, "By eye and ear", "Keep it", width=640)
        self.subject = self.finding = self.note = ""
        self.photos: list[Path] = []
        self.body.addWidget(label(f"{of} · {OPINION}", "quiet", wrap=True))
        self._subjects, self._findings = _Picks("Subject"), _Picks("What is seen or heard")
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addWidget(self._subjects, 1)
        row.addWidget(self._findings, 1)
        self.body.addLayout(row)
        self._note = QLineEdit()
        self._note.setPlaceholderText("in your own words, if you like")
        self._note.setAccessibleName("Note")
        self.body.addWidget(self._note)
        self._photo_line = label("No photo. Position and time in a photo's data are not kept.", "coming", wrap=True)
        add = QPushButton("Add a photo …")
        add.setAutoDefault(False)
        add.clicked.connect(self._ask_photos)
        photos = QHBoxLayout()
        photos.addWidget(self._photo_line, 1)
        photos.addWidget(add)
        self.body.addLayout(photos)
        if before:
            self.body.addWidget(label("already noted: " + " · ".join(before[-4:]), "coming", wrap=True))
        if thumbnails:
            self.body.addLayout(_strip(thumbnails[-_THUMBNAILS:]))
        self._subjects.fill(list(PICKS))
        self._subjects.currentTextChanged.connect(self._show_findings)
        self._show_findings(self._subjects.currentItem().text())  # type: ignore[union-attr]
        self._subjects.setFocus()

    def _show_findings(self, subject: str) -> None:
        self._findings.fill(list(PICKS.get(subject, ())))

    def choose(self, subject: str, finding: str, note: str = "") -> None:
        """Pick by name."""
        self._subjects.pick(subject)
        self._findings.pick(finding)
        self._note.setText(note)

    def _ask_photos(self) -> None:
        found, _ = QFileDialog.getOpenFileNames(self, "Photos", "", file_filter(SNAPSHOTS))
        self.add_photos([Path(name) for name in found])

    def add_photos(self, paths: list[Path]) -> None:
        """Take photos along."""
        self.photos += paths
        if self.photos:
            self._photo_line.setText("Photos: " + ", ".join(path.name for path in self.photos))

    def try_accept(self) -> None:
        """Take the picks."""
        self.subject = self._subjects.currentText
        self.finding = self._findings.currentText
        self.note = self._note.text().strip()
        self.accept()


def _strip(thumbnails: list[bytes]) -> QHBoxLayout:
    """Small pictures side by side."""
    row = QHBoxLayout()
    for data in thumbnails:
        pixmap = QPixmap()
        pixmap.loadFromData(data)
        picture = QLabel()
        picture.setAccessibleName("Photo")
        picture.setPixmap(
            pixmap.scaled(_SIDE, _SIDE, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)
        )
        row.addWidget(picture)
    row.addStretch()
    return row


class _Picks(QListWidget):
    """A short list; arrows move, Right goes on to the next list."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setFixedHeight(8 * 30 + 8)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    @property
    def currentText(self) -> str:
        """The text under the cursor."""
        item = self.currentItem()
        return item.text() if item is not None else ""

    def fill(self, texts: list[str]) -> None:
        """Show these, the first under the cursor."""
        self.clear()
        for text in texts:
            self.addItem(QListWidgetItem(text))
        self.setCurrentRow(0)

    def pick(self, text: str) -> None:
        """Put the cursor on a text."""
        found = self.findItems(text, Qt.MatchFlag.MatchExactly)
        if found:
            self.setCurrentItem(found[0])
