"""The calm frame of every dialog: a title in words, content, and what will happen on the buttons."""

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import QDialog, QFileDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from even_beam.app.widgets.text import label
from even_beam.files.errors import OutputError
from even_beam.files.writing import with_suffix


class Sheet(QDialog):
    """A dialog with a heading, room for content (`body`) and two buttons."""

    def __init__(
        self, parent: QWidget | None, title: str, accept: str, *, cancel: str = "Cancel", width: int = 560
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(width)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(28, 24, 28, 20)
        outer.setSpacing(12)
        outer.addWidget(label(title, "title"))
        self.body = QVBoxLayout()
        self.body.setSpacing(8)
        outer.addLayout(self.body)
        self.fault = label("", "fault", wrap=True)
        self.fault.hide()
        outer.addWidget(self.fault)
        row = QHBoxLayout()
        row.addStretch()
        self.accept_button = QPushButton(accept)
        self.accept_button.setDefault(True)
        self.accept_button.clicked.connect(self.try_accept)
        if cancel:
            self.cancel_button = QPushButton(cancel)
            self.cancel_button.setAutoDefault(False)
            self.cancel_button.clicked.connect(self.reject)
            row.addWidget(self.cancel_button)
        row.addWidget(self.accept_button)
        outer.addLayout(row)

    def showEvent(self, event: QShowEvent | None) -> None:
        """As high as its words need at its width, not as they would at the least; unless it was given a size."""
        super().showEvent(event)
        layout, sized = self.layout(), self.testAttribute(Qt.WidgetAttribute.WA_Resized)
        if layout is not None and layout.hasHeightForWidth() and not sized:
            self.resize(self.width(), layout.totalHeightForWidth(self.width()))

    def try_accept(self) -> None:
        """Accept; dialogs that check their input first override this."""
        self.accept()

    def complain(self, message: str) -> None:
        """Say what is wrong, where it is read."""
        self.fault.setText(message)
        self.fault.show()


def tell(parent: QWidget | None, title: str, message: str) -> None:
    """Say something that must be read, and go on."""
    sheet = Sheet(parent, title, "Go on", cancel="")
    text = label(message, "quiet", wrap=True)
    text.setMinimumHeight(60)
    text.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    sheet.body.addWidget(text)
    sheet.exec()


def ask(parent: QWidget | None, title: str, message: str, accept: str, *, careful: bool = False) -> bool:
    """Ask before something that is awkward to take back; `careful` before what cannot be: Enter then leaves it."""
    sheet = Sheet(parent, title, accept)
    if careful:
        sheet.accept_button.setDefault(False)
        sheet.accept_button.setAutoDefault(False)
        sheet.cancel_button.setDefault(True)
        sheet.cancel_button.setFocus()
    sheet.body.addWidget(label(message, "quiet", wrap=True))
    return sheet.exec() == QDialog.DialogCode.Accepted


def save_as(parent: QWidget | None, title: str, proposed: str, patterns: str, *suffixes: str) -> Path | None:
    """Where to save a file that ends in one of some suffixes, or a folder without any; None where none is to be saved.

    The system's dialog asks before a file is replaced, but not where the suffix was left out: then it is asked here.
    """
    name, _ = QFileDialog.getSaveFileName(parent, title, proposed, patterns)
    if not name:
        return None
    try:
        path = with_suffix(Path(name), *suffixes) if suffixes else Path(name)
    except OutputError as error:
        tell(parent, "Not saved", str(error))
        return None
    taken = path != Path(name) and path.exists()
    question = f"{path.name} is there already. It is replaced where it is of the same kind."
    return None if taken and not ask(parent, "Replace it?", question, "Replace it", careful=True) else path
