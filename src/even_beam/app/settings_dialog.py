"""Settings of a person: units, paper, theme, publisher; kept in settings.toml."""

from dataclasses import replace
from typing import Any

from PyQt6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QLineEdit, QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.workspace.settings import CHOICES, Settings

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
        grid.addWidget(label("Publisher", "quiet"), len(_CAPTIONS), 0)
        grid.addWidget(self._publisher, len(_CAPTIONS), 1)
        self._switches: dict[str, QCheckBox] = {}
        for row, (name, caption) in enumerate(_SWITCHES.items(), start=len(_CAPTIONS) + 1):
            switch = QCheckBox(caption)
            switch.setChecked(getattr(settings, name))
            grid.addWidget(switch, row, 0, 1, 2)
            self._switches[name] = switch
        self.body.addLayout(grid)

    def try_accept(self) -> None:
        """Take the choices."""
        chosen: dict[str, Any] = {name: box.currentText() for name, box in self._boxes.items()}
        chosen |= {name: switch.isChecked() for name, switch in self._switches.items()}
        self.settings = replace(self.settings, publisher=self._publisher.text().strip(), **chosen)
        self.accept()
