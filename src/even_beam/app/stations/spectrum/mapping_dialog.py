"""How a table of spectra is read: every choice with a live preview, remembered for files of the same shape."""

from PyQt6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QLineEdit, QPlainTextEdit, QSpinBox, QWidget

from even_beam.answers.spectrum.files import MappingPreview, preview
from even_beam.app import theme
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.chart_view import ChartView
from even_beam.app.widgets.text import label
from even_beam.formats.delimited import DELIMITERS, UNITS, Mapping


class MappingDialog(Sheet):
    """Asks for a mapping; `mapping` holds the answer."""

    def __init__(self, parent: QWidget | None, name: str, lines: list[str], mapping: Mapping) -> None:
        super().__init__(parent, f"How {name} is read", "Read it so, and files like it", width=860)
        self._lines, self._name = lines, name
        self.mapping = mapping
        grid = QGridLayout()
        grid.setHorizontalSpacing(18)
        self._delimiter = _choice(list(DELIMITERS.values()), DELIMITERS[mapping.delimiter], "Separated by")
        self._decimal = _choice(["point", "comma"], "comma" if mapping.decimal == "," else "point", "Decimal sign")
        self._first = QSpinBox()
        self._first.setRange(1, max(1, len(lines)))
        self._first.setValue(mapping.first_line + 1)
        self._first.setAccessibleName("First line of numbers")
        self._layout = _choice(["in columns", "in rows"], "in rows" if mapping.in_rows else "in columns", "Spectra")
        self._columns = QLineEdit(" ".join(map(str, mapping.columns)))
        self._columns.setPlaceholderText("all, or numbers such as 1 3")
        self._columns.setAccessibleName("Which of them")
        self._axis = _choice(
            ["nanometres", "micrometres"], "micrometres" if mapping.micrometres else "nanometres", "Wavelengths"
        )
        self._unit = _choice(list(UNITS), mapping.unit, "Values")
        self._per = QCheckBox("per µm instead of per nm")
        self._per.setChecked(mapping.per_micrometre)
        rows = (
            ("Separated by", self._delimiter),
            ("Decimal sign", self._decimal),
            ("First line of numbers", self._first),
            ("Spectra", self._layout),
            ("Which of them", self._columns),
            ("Wavelengths", self._axis),
            ("Values", self._unit),
            ("", self._per),
        )
        for row, (caption, widget) in enumerate(rows):
            grid.addWidget(label(caption, "quiet"), row, 0)
            grid.addWidget(widget, row, 1)
        self._text = QPlainTextEdit("\n".join(lines[:60]))
        self._text.setReadOnly(True)
        self._text.setFont(theme.font("small", mono=True))
        self._text.setAccessibleName("The file's first lines")
        self._text.setMinimumWidth(420)
        self._chart = ChartView()
        self._chart.setMinimumHeight(170)
        grid.addWidget(self._text, 0, 2, 4, 1)
        grid.addWidget(self._chart, 4, 2, 4, 1)
        self.body.addLayout(grid)
        self._result = label("", "line", wrap=True)
        self.body.addWidget(self._result)
        for box in (self._delimiter, self._decimal, self._layout, self._axis, self._unit):
            box.currentIndexChanged.connect(lambda _: self._update())
        self._first.valueChanged.connect(lambda _: self._update())
        self._columns.textChanged.connect(lambda _: self._update())
        self._per.toggled.connect(lambda _: self._update())
        self._update()

    def _chosen(self) -> Mapping:
        delimiter = next(d for d, words in DELIMITERS.items() if words == self._delimiter.currentText())
        columns = tuple(int(word) for word in self._columns.text().replace(",", " ").split() if word.isdigit())
        return Mapping(
            delimiter=delimiter,
            decimal="," if self._decimal.currentIndex() == 1 else ".",
            first_line=self._first.value() - 1,
            in_rows=self._layout.currentIndex() == 1,
            columns=columns,
            micrometres=self._axis.currentIndex() == 1,
            unit=self._unit.currentText(),
            per_micrometre=self._per.isChecked(),
        )

    def _update(self) -> None:
        self.mapping = self._chosen()
        shown: MappingPreview = preview(self._lines, self._name, self.mapping)
        self._result.setText(shown.words)
        self._chart.show_chart(shown.chart)
        self.accept_button.setEnabled(shown.good)


def _choice(texts: list[str], current: str, name: str) -> QComboBox:
    box = QComboBox()
    box.addItems(texts)
    box.setCurrentText(current)
    box.setAccessibleName(name)
    return box
