"""Which lamp each spectrum of some files is of, at which white and level: proposed by their names, all editable."""

from collections.abc import Sequence
from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QLineEdit, QTableWidget, QTableWidgetItem, QWidget

from even_beam.answers.intake.naming import NamedSo
from even_beam.answers.intake.spectra import FoundSpectrum
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.bench.limits import impossible_term
from even_beam.words import notation

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
        white = "" if one.of.cct_k is None else f"{one.of.cct_k:.0f}"
        level = "" if one.of.level_pct is None else f"{one.of.level_pct:g}"
        for column, text in enumerate((one.named.name, one.of.lamp, white, level, "")):
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
            white, level = self._number(row, 2, "cct_k"), self._number(row, 3, "level_pct")
            if white is False or level is False:
                return
            so = NamedSo(self._cell(row, 1).text().strip(), white or None, None if level is None else float(level))
            found.append(replace(one, of=so))
        self.named = found
        self.accept()

    def _cell(self, row: int, column: int) -> QTableWidgetItem:
        item = self._table.item(row, column)
        if item is None:
            raise LookupError(f"there is no cell {row}, {column}")
        return item

    def _number(self, row: int, column: int, term: str) -> float | bool | None:
        """The number of a cell, None where it is empty; False, and said, where it cannot be."""
        text = self._cell(row, column).text().strip().removesuffix("%").removesuffix("K").strip()
        if not text:
            return None
        try:
            value = float(text.replace(",", "."))
        except ValueError:
            value = float("nan")
        if (problem := impossible_term(term, value)) is not None:
            self.complain(f"Line {row + 1}: {notation.sentence(problem)}.")
            self._table.setCurrentCell(row, column)
            return False
        return value
