"""Terms: for the next readings, or corrected on one reading or a stretch of them."""

from dataclasses import dataclass

from PyQt6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QLineEdit, QWidget

from even_beam.answers.bench.terms_form import TermsError, TermsForm, form_of, terms_of
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.records import Terms


@dataclass(frozen=True, slots=True)
class Scope:
    """Which readings the terms are for: a name, and the ids of the readings to correct (none: the next ones)."""

    name: str
    reading_ids: tuple[str, ...] = ()


_FIELDS = (
    ("white", "White dialled, K", "5600, or empty as found"),
    ("level", "Level, %", "100"),
    ("distance", "Distance to the reference plane", "3 m, 10 ft, or equal"),
    ("configuration", "On the lamp, in order", "bare, or reflector + full blue gel"),
    ("zoom", "Zoom", "flood, spot, 30°"),
    ("tint", "Tint dialled", "+2, ½ green"),
    ("angle", "Off the beam axis, degrees", "0"),
)


class TermsDialog(Sheet):
    """Asks for terms; `terms` and `scope` hold the answer."""

    def __init__(self, parent: QWidget | None, terms: Terms, scopes: list[Scope], unit: str) -> None:
        super().__init__(parent, "Terms of the reading", "Use these terms")
        self._scopes = scopes
        self._unit = unit
        self.terms = terms
        form = form_of(terms, unit)
        self.body.addWidget(
            label(
                "All that must be equal for two figures to be compared. A correction keeps the old terms beside the"
                " new.",
                "quiet",
                wrap=True,
            )
        )
        grid = QGridLayout()
        grid.setHorizontalSpacing(20)
        self._scope = QComboBox()
        self._scope.addItems([scope.name for scope in scopes])
        self._scope.setAccessibleName("For which readings")
        grid.addWidget(label("For", "quiet"), 0, 0)
        grid.addWidget(self._scope, 0, 1)
        self._edits: dict[str, QLineEdit] = {}
        for row, (name, caption, example) in enumerate(_FIELDS, start=1):
            edit = QLineEdit(getattr(form, name))
            edit.setPlaceholderText(example)
            edit.setAccessibleName(caption)
            grid.addWidget(label(caption, "quiet"), row, 0)
            grid.addWidget(edit, row, 1)
            self._edits[name] = edit
        self._fixed = QCheckBox("its white is fixed: nothing can be dialled")
        self._fixed.setChecked(form.fixed)
        grid.addWidget(self._fixed, len(_FIELDS) + 1, 1)
        self.body.addLayout(grid)
        self._edits["white"].setFocus()

    @property
    def scope(self) -> Scope:
        """The readings chosen."""
        return self._scopes[self._scope.currentIndex()]

    def try_accept(self) -> None:
        """Understand the fields, or say which one is wrong."""
        form = TermsForm(fixed=self._fixed.isChecked(), **{name: edit.text() for name, edit in self._edits.items()})
        try:
            self.terms = terms_of(form, self.terms, self._unit)
        except TermsError as error:
            self.complain(str(error))
            self._edits[error.field].setFocus()
            return
        self.accept()
