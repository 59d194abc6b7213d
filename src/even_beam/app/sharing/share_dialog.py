"""With which hub a logbook is shared: a folder, or a server."""

from collections.abc import Sequence

from PyQt6.QtWidgets import QFileDialog, QLineEdit, QPushButton, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label


class ShareDialog(Sheet):
    """Asks for the hub; `address` holds the answer, `password` what a server wants, which is kept nowhere."""

    def __init__(self, parent: QWidget | None, known: Sequence[str]) -> None:
        super().__init__(parent, "Share with", "Share", width=620)
        words = (
            "Benches that share with one hub have all of each other's sessions. A hub is a folder that all can reach"
            " (a share, a synchronised folder, a stick), or a PostgreSQL server."
        )
        self.body.addWidget(label(words, "quiet", wrap=True))
        self._address = QLineEdit(known[0] if known else "")
        self._address.setPlaceholderText("a folder, or postgresql://user@server/database")
        self._address.setAccessibleName("The hub: a folder, or the address of a server")
        self.body.addWidget(self._address)
        choose = QPushButton("Choose a folder …")
        choose.setAutoDefault(False)
        choose.clicked.connect(self._choose)
        self.body.addWidget(choose)
        self._password = QLineEdit()
        self._password.setEchoMode(QLineEdit.EchoMode.Password)
        self._password.setPlaceholderText("password of a server, where it wants one; it is not kept")
        self._password.setAccessibleName("Password of a server")
        self.body.addWidget(self._password)
        kept_back = "What is marked as not shared stays here: even-beam share LOGBOOK --keep-back NAME, or prices."
        self.body.addWidget(label(kept_back, "quiet", wrap=True))

    def _choose(self) -> None:
        if name := QFileDialog.getExistingDirectory(self, "The hub"):
            self._address.setText(name)

    @property
    def address(self) -> str:
        """The hub that was named."""
        return self._address.text().strip()

    @property
    def password(self) -> str:
        """What a server wants."""
        return self._password.text()

    def try_accept(self) -> None:
        """Only with a hub."""
        if self.address:
            self.accept()
        else:
            self.complain("Name a folder or a server first.")
