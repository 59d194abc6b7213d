"""Target mode: another target, keep what was matched with its readings, come back to a kept one, or leave."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit, QListWidget, QListWidgetItem, QPushButton, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.target import Look, Target


class LookDialog(Sheet):
    """Asks what to do about the target; exactly one of `wants_target`, `leaves`, `kept_name`, `chosen` is set."""

    def __init__(self, parent: QWidget | None, target: Target | None, looks: list[Look]) -> None:
        super().__init__(parent, "Target and kept whites", "Match this white again", width=520)
        self.wants_target = self.leaves = False
        self.kept_name = ""
        self.chosen: Look | None = None
        self._looks = looks
        words = f"Target {target.words}." if target is not None else "No target is set."
        self.body.addWidget(label(words, "quiet", wrap=True))
        self._list = QListWidget()
        self._list.setAccessibleName("Kept whites")
        self._list.setMinimumHeight(140)
        for look in looks:
            item = QListWidgetItem(f"{look.name}   {look.target.cct_k:.0f} K   {look.at:%-d %b %Y}")
            item.setData(Qt.ItemDataRole.UserRole, look.id)
            self._list.addItem(item)
        self._list.setCurrentRow(0)
        if looks:
            self.body.addWidget(self._list)
        else:
            self.body.addWidget(label("No white has been kept yet: name this one below.", "coming", wrap=True))
            self.accept_button.hide()
        self._button("Set another target …" if target is not None else "Set a target …", self._set)
        if target is not None:
            self._name = QLineEdit()
            self._name.setPlaceholderText("a name for it, such as: specimen table, window side")
            self._name.setAccessibleName("Name of the white to keep")
            self._name.returnPressed.connect(self._keep)
            self.body.addWidget(self._name)
            self._button("Keep this white", self._keep)
            self._button("Leave target mode", self._leave)

    def _button(self, text: str, act) -> None:  # type: ignore[no-untyped-def]
        button = QPushButton(text)
        button.setAutoDefault(False)
        button.clicked.connect(act)
        self.body.addWidget(button)

    def _set(self) -> None:
        self.wants_target = True
        self.accept()

    def _keep(self) -> None:
        name = self._name.text().strip()
        taken = any(look.name.casefold() == name.casefold() for look in self._looks)
        if not name or taken:
            self.complain("That name is taken." if taken else "Give it a name to find it by.")
            return
        self.kept_name = name
        self.accept()

    def _leave(self) -> None:
        self.leaves = True
        self.accept()

    def try_accept(self) -> None:
        """Come back to the look under the cursor."""
        item = self._list.currentItem()
        if item is None:
            return
        self.chosen = next(look for look in self._looks if look.id == item.data(Qt.ItemDataRole.UserRole))
        self.accept()
