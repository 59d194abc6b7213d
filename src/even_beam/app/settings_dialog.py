"""Settings of a person: units, paper, theme, publisher; kept in settings.toml."""

from dataclasses import replace
from typing import Any

from PyQt6.QtWidgets import QCheckBox, QComboBox, QDoubleSpinBox, QGridLayout, QLineEdit, QSpinBox, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.shell.settings import CHOICES, RANGES, Settings, bands_of
from even_beam.words import notation

_CAPTIONS = {
    "theme": "Theme",
    "distance_unit": "Distances in",
    "illuminance_unit": "Illuminance in",
    "paper": "Paper",
}
_SWITCHES = {
    "fade": "Fade the screen to near black while the meter reads (studio theme)",
    "tones": "A tone for each reading: fits, in doubt, fault",
}


class SettingsDialog(Sheet):
    """Asks for settings; `settings` holds the answer."""

    def __init__(self, parent: QWidget | None, settings: Settings) -> None:
        super().__init__(parent, "Settings", "Keep", width=480)
        self.settings = settings
        grid = QGridLayout()
        grid.setHorizontalSpacing(20)
        self._boxes: dict[str, QComboBox] = {}
        for row, (name, caption) in enumerate(_CAPTIONS.items()):
            box = QComboBox()
            box.addItems(CHOICES[name])
            box.setCurrentText(getattr(settings, name))
            box.setAccessibleName(caption)
            grid.addWidget(label(caption, "quiet"), row, 0)
            grid.addWidget(box, row, 1)
            self._boxes[name] = box
        self._publisher = QLineEdit(settings.publisher)
        self._publisher.setPlaceholderText("stands on reports")
        self._publisher.setAccessibleName("Publisher")
        self._bands = QLineEdit(", ".join(f"{edge:.0f}" for edge in settings.white_bands_k))
        self._bands.setAccessibleName("Bands of white, edges in kelvin")
        self._battery = QDoubleSpinBox()
        self._battery.setRange(1.0, 5000.0)
        self._battery.setDecimals(0)
        self._battery.setSuffix(" Wh")
        self._battery.setValue(settings.battery_wh)
        self._battery.setAccessibleName("Battery for run times")
        self._backups = QDoubleSpinBox()
        self._backups.setRange(*RANGES["backups_mb"])
        self._backups.setDecimals(0)
        self._backups.setSingleStep(500)
        self._backups.setSuffix(" MB")
        self._backups.setSpecialValueText("none are made")
        self._backups.setValue(settings.backups_mb)
        self._backups.setAccessibleName("Daily copies of a logbook may take")
        self._text_size = QSpinBox()
        self._text_size.setRange(*(round(end) for end in RANGES["text_size_pct"]))
        self._text_size.setSingleStep(10)
        self._text_size.setSuffix(" %")
        self._text_size.setValue(round(settings.text_size_pct))
        self._text_size.setAccessibleName("Text size")
        further = (
            ("Text size, from the next start on", self._text_size),
            ("Publisher", self._publisher),
            ("White errors in bands at, K", self._bands),
            ("Run times for a battery of", self._battery),
            ("Daily copies of a logbook take at most", self._backups),
        )
        for row, (caption, widget) in enumerate(further, start=len(_CAPTIONS)):
            grid.addWidget(label(caption, "quiet"), row, 0)
            grid.addWidget(widget, row, 1)
        self._switches: dict[str, QCheckBox] = {}
        for row, (name, caption) in enumerate(_SWITCHES.items(), start=len(_CAPTIONS) + len(further)):
            switch = QCheckBox(caption)
            switch.setChecked(getattr(settings, name))
            grid.addWidget(switch, row, 0, 1, 2)
            self._switches[name] = switch
        self.body.addLayout(grid)

    def try_accept(self) -> None:
        """Take the choices."""
        chosen: dict[str, Any] = {name: box.currentText() for name, box in self._boxes.items()}
        chosen |= {name: switch.isChecked() for name, switch in self._switches.items()}
        try:
            bands = bands_of(text for text in self._bands.text().replace(",", " ").split())
        except ValueError as error:
            self.complain(f"{notation.sentence(str(error))}.")
            self._bands.setFocus()
            return
        self.settings = replace(
            self.settings,
            publisher=self._publisher.text().strip(),
            white_bands_k=bands,
            battery_wh=self._battery.value(),
            backups_mb=self._backups.value(),
            text_size_pct=float(self._text_size.value()),
            **chosen,
        )
        self.accept()
