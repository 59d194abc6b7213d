"""The calm frame of every dialog: a title in words, content, and what will happen on the buttons."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from even_beam.app.widgets.text import label


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
