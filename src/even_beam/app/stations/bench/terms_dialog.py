"""Terms: for the next readings, or corrected on one reading or a stretch of them."""

from dataclasses import dataclass

from PyQt6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QLineEdit, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.field_texts import FIXED, TermsError
from even_beam.bench.fields import FIELDS, shown_texts_of, terms_of_texts
from even_beam.bench.records import Terms


@dataclass(frozen=True, slots=True)
class Scope:
    """Which readings the terms are for: a name, and the ids of the readings to correct (none: the next ones)."""

    name: str
    reading_ids: tuple[str, ...] = ()


_ASKED = tuple(one for one in FIELDS if one.caption)


class TermsDialog(Sheet):
    """Asks for terms; `terms` and `scope` hold the answer."""

    def __init__(self, parent: QWidget | None, terms: Terms, scopes: list[Scope], unit: str) -> None:
        super().__init__(parent, "Terms of the reading", "Use these terms", width=880)
        self._scopes = scopes
        self._unit = unit
        self.terms = terms
        texts = shown_texts_of(terms, unit)
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
        grid.addWidget(self._scope, 0, 1, 1, 3)
        self._edits: dict[str, QLineEdit] = {}
        rows = -(-len(_ASKED) // 2)
        for place, field in enumerate(_ASKED):
            column, row = 2 * (place // rows), 1 + place % rows
            edit = QLineEdit(texts[field.name])
            edit.setPlaceholderText(field.example)
            edit.setAccessibleName(field.caption)
            grid.addWidget(label(field.caption, "quiet"), row, column)
            grid.addWidget(edit, row, column + 1)
            self._edits[field.name] = edit
        self._fixed = QCheckBox("its white is fixed: nothing can be dialled")
        self._fixed.setChecked(terms.mode == FIXED)
        grid.addWidget(self._fixed, rows + 1, 1, 1, 3)
        self.body.addLayout(grid)
        self._edits["cct"].setFocus()

    @property
    def scope(self) -> Scope:
        """The readings chosen."""
        return self._scopes[self._scope.currentIndex()]

    def try_accept(self) -> None:
        """Understand the fields, or say which one is wrong."""
        texts = {name: edit.text() for name, edit in self._edits.items()}
        if self._fixed.isChecked() != (self.terms.mode == FIXED):
            texts |= {"mode": FIXED, "cct": ""} if self._fixed.isChecked() else {"mode": "CCT"}
        try:
            self.terms = terms_of_texts(texts, self.terms, shown_texts_of(self.terms, self._unit))
        except TermsError as error:
            self.complain(str(error))
            self._edits[error.field].setFocus()
            return
        self.accept()
