"""A lamp: what it is called, what it is, what is claimed of it, what it cost."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QCompleter, QGridLayout, QLineEdit, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.records import SOURCE_KINDS
from even_beam.workspace.kit.lamp_form import FormError, LampForm

_LEFT = (
    ("nickname", "Nickname", "a word to call it by in the dark"),
    ("kind", "Kind", ""),
    ("model", "Model, in your own words", "soft panel, 200 W"),
    ("supplied_by", "Supplied by", "own, lent by, on approval"),
    ("return_by", "Goes back by", "2026-12-01"),
    ("serial", "Serial number", ""),
    ("notes", "Notes", ""),
)
_RIGHT = (
    ("white", "Claimed white, K", "2700 to 6500"),
    ("ra", "Claimed Ra", "95+"),
    ("illuminance_at_1_m", "Claimed level at 1 m", "9800 lx, or 900 fc"),
    ("power", "Claimed power, W", "200"),
    ("price", "Price", "640"),
    ("currency", "Currency", "EUR"),
)


class LampDialog(Sheet):
    """Asks for a lamp; `save` does it and may refuse with a `FormError`."""

    def __init__(
        self,
        parent: QWidget | None,
        form: LampForm,
        kinds: list[str],
        simulated: str,
        save: Callable[[LampForm, str], object],
    ) -> None:
        super().__init__(parent, form.nickname or "A lamp", "Keep", width=720)
        self._save = save
        self._edits: dict[str, QLineEdit] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(20)
        grid.setVerticalSpacing(8)
        for column, fields in ((0, _LEFT), (2, _RIGHT)):
            for row, (name, caption, example) in enumerate(fields):
                edit = QLineEdit(getattr(form, name))
                edit.setPlaceholderText(example)
                edit.setAccessibleName(caption)
                edit.setCursorPosition(0)
                grid.addWidget(label(caption, "quiet"), row, column)
                grid.addWidget(edit, row, column + 1)
                self._edits[name] = edit
        self._what = QComboBox()
        self._what.addItems(SOURCE_KINDS)
        self._what.setCurrentText(form.what)
        self._what.setAccessibleName("What it is")
        grid.addWidget(label("What it is", "quiet"), len(_RIGHT), 2)
        grid.addWidget(self._what, len(_RIGHT), 3)
        self._simulated = QComboBox()
        self._simulated.addItems(["a real lamp", *kinds])
        self._simulated.setCurrentText(simulated or "a real lamp")
        self._simulated.setAccessibleName("Played by the simulator")
        grid.addWidget(label("For the simulated meter", "quiet"), len(_LEFT), 0)
        grid.addWidget(self._simulated, len(_LEFT), 1)
        self.body.addLayout(grid)
        self._edits["nickname"].setFocus()

    def offer_models(self, names: Sequence[str]) -> None:
        """Complete the model by those in the kit: a lamp of the same model is another unit of it."""
        completer = QCompleter(names, self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self._edits["model"].setCompleter(completer)

    def try_accept(self) -> None:
        """Keep the lamp, or say which field is wrong."""
        form = LampForm(what=self._what.currentText(), **{name: edit.text() for name, edit in self._edits.items()})
        simulated = self._simulated.currentText() if self._simulated.currentIndex() > 0 else ""
        try:
            self._save(form, simulated)
        except FormError as error:
            self.complain(str(error))
            self._edits[error.field].setFocus()
            return
        self.accept()
