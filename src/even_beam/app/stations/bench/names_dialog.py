"""Which lamp each spectrum of some files is of, at which white and level: proposed by their names, all editable."""

from collections.abc import Sequence
from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QLineEdit, QTableWidget, QTableWidgetItem, QWidget

from even_beam.answers.intake.naming import NamedSo
from even_beam.answers.intake.spectra import FoundSpectrum
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.field_texts import FIXED, TermsError
from even_beam.bench.fields import terms_of_texts
from even_beam.bench.records import Terms

_TERMS = {2: "cct", 3: "level"}
"""The columns that hold terms, by their fields."""

_HEADINGS = ("spectrum", "lamp", "white, K", "level, %", "keep")


class NamesDialog(Sheet):
    """A line a spectrum. Arrows move, typing replaces a cell, Ctrl Enter keeps them all in `named`."""

    def __init__(
        self,
        parent: QWidget | None,
        found: Sequence[FoundSpectrum],
        lamps: Sequence[str],
        name: str,
        refused: Sequence[str],
    ) -> None:
        count = len(found)
        super().__init__(parent, f"{count} spectra from files", "Keep them as readings", width=820)
        self._found = found
        self.named: list[FoundSpectrum] = []
        known = f" The Kit has {', '.join(lamps[:6])}{' …' if len(lamps) > 6 else ''}." if lamps else ""
        self.body.addWidget(
            label(
                f"What their names say. Arrows move, typing replaces, Ctrl Enter keeps them all; a lamp that is new is"
                f" added.{known}",
                "quiet",
                wrap=True,
            )
        )
        self._name = QLineEdit(name)
        self._name.setAccessibleName("Name of their session")
        self.body.addWidget(self._name)
        self._table = QTableWidget(count, len(_HEADINGS))
        self._table.setAccessibleName("Spectra")
        self._table.setHorizontalHeaderLabels(list(_HEADINGS))
        self._table.verticalHeader().hide()  # type: ignore[union-attr]
        self._table.setEditTriggers(
            QAbstractItemView.EditTrigger.AnyKeyPressed | QAbstractItemView.EditTrigger.DoubleClicked
        )
        self._table.setMinimumHeight(min(360, 60 + 30 * count))
        self.resize(820, 300 + min(360, 60 + 30 * count))
        header = self._table.horizontalHeader()
        if header is not None:
            header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
            header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            header.setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        for row, one in enumerate(found):
            self._fill(row, one)
        self.body.addWidget(self._table)
        self._table.setCurrentCell(0, 1)
        self._table.setFocus()
        self.accept_button.setShortcut("Ctrl+Return")
        if refused:
            self.complain("Not read: " + "; ".join(refused))

    def _fill(self, row: int, one: FoundSpectrum) -> None:
        asked = (one.of.texts.get(name, "") for name in _TERMS.values())
        for column, text in enumerate((one.named.name, one.of.lamp, *asked, "")):
            item = QTableWidgetItem(text)
            if column in {0, 4}:
                item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
            if column == 4:
                item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
                item.setCheckState(Qt.CheckState.Checked)
            self._table.setItem(row, column, item)

    @property
    def session_name(self) -> str:
        """What their session is called."""
        return self._name.text().strip() or "Spectra"

    def try_accept(self) -> None:
        """Keep what is ticked, if every cell can be."""
        self._table.setFocus()  # ends the editing of a cell
        found = []
        for row, one in enumerate(self._found):
            if self._cell(row, 4).checkState() != Qt.CheckState.Checked:
                continue
            texts = {**one.of.texts, **{name: self._cell(row, c).text() for c, name in _TERMS.items()}}
            try:
                terms_of_texts(texts, Terms(mode=FIXED))
            except TermsError as error:
                self.complain(f"Line {row + 1}: {error}.")
                self._table.setCurrentCell(row, next(c for c, name in _TERMS.items() if name == error.field))
                return
            so = NamedSo(self._cell(row, 1).text().strip(), {name: text for name, text in texts.items() if text})
            found.append(replace(one, of=so))
        self.named = found
        self.accept()

    def _cell(self, row: int, column: int) -> QTableWidgetItem:
        item = self._table.item(row, column)
        if item is None:
            raise LookupError(f"there is no cell {row}, {column}")
        return item
