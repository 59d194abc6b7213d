"""What eye and ear say: a subject, a quick pick, a note, photos. Kept as an opinion."""

from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QItemSelectionModel, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPixmap
from PyQt6.QtWidgets import (
    QComboBox,
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
from even_beam.bench.observations import OPINION, OWN_WORDS, PICKS
from even_beam.formats.kinds import SNAPSHOTS, file_filter

_THUMBNAILS, _SIDE = 5, 110


class ObservationDialog(Sheet):
    """Asks what was seen or heard; `subject`, `finding`, `note` and `photos` hold the answer.

    `beside` is the lamp that was looked at side by side with it, by its id; `others` are those that could be: id, name.
    """

    def __init__(
        self,
        parent: QWidget | None,
        of: str,
        before: list[str],
        thumbnails: list[bytes],
        others: Sequence[tuple[str, str]] = (),
    ) -> None:
        super().__init__(parent, "By eye and ear", "Keep it", width=640)
        self.beside = ""
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
        self._beside = QComboBox()
        self._beside.setAccessibleName("Seen beside")
        self._beside.addItem("seen alone", "")
        for source_id, name in others:
            self._beside.addItem(f"side by side with {name}", source_id)
        self._beside.setVisible(bool(others))
        self.body.addWidget(self._beside)
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
        self._subjects.itemSelectionChanged.connect(lambda: self._show_findings(self._subjects.currentText))
        for picks in (self._subjects, self._findings):
            picks.words_typed.connect(self._own_words)
        self._subjects.setFocus()

    def _show_findings(self, subject: str) -> None:
        self._findings.fill(list(PICKS.get(subject, ())))

    def _own_words(self, text: str) -> None:
        """Words that are typed at once are own words."""
        self._note.setFocus()
        self._note.insert(text)

    def choose(self, subject: str, finding: str, note: str = "", beside: str = "") -> None:
        """Pick by name, the other lamp by its id."""
        self._beside.setCurrentIndex(max(0, self._beside.findData(beside)))
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
        if not (self.finding or self.note or self.photos):
            self.complain("Choose what is seen or heard, write it, or add a photo: nothing is kept that nobody said.")
            return
        self.subject = self.subject or OWN_WORDS
        self.beside = str(self._beside.currentData() or "")
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
    """A short list of which nothing is chosen yet; arrows move. `words_typed` tells a letter."""

    words_typed = pyqtSignal(str)

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setFixedHeight(8 * 30 + 8)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    @property
    def currentText(self) -> str:
        """The text that was chosen; empty where none was, wherever the cursor stands."""
        return next((item.text() for item in self.selectedItems()), "")

    def fill(self, texts: list[str]) -> None:
        """Show these, none of them chosen."""
        self.clear()
        for text in texts:
            self.addItem(QListWidgetItem(text))
        self.setCurrentRow(-1)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Letters are words; the first arrow chooses what is under the cursor, further ones move."""
        if event is not None and event.text().isalnum():
            self.words_typed.emit(event.text())
        elif event is not None and event.key() in {Qt.Key.Key_Down, Qt.Key.Key_Up} and not self.selectedItems():
            self.setCurrentRow(max(self.currentRow(), 0), QItemSelectionModel.SelectionFlag.ClearAndSelect)
        else:
            super().keyPressEvent(event)

    def pick(self, text: str) -> None:
        """Put the cursor on a text."""
        found = self.findItems(text, Qt.MatchFlag.MatchExactly)
        if found:
            self.setCurrentItem(found[0])
