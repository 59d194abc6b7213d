"""About: version, what it is, and under which licences its parts come."""

from importlib import metadata

from PyQt6.QtWidgets import QScrollArea, QWidget

import even_beam
from even_beam.app.dialogs import Sheet
from even_beam.app.widgets.text import label
from even_beam.shell import places

_PARTS = (
    "PyQt6",
    "pyqtgraph",
    "numpy",
    "scipy",
    "matplotlib",
    "weasyprint",
    "Jinja2",
    "openpyxl",
    "click",
    "platformdirs",
    "tomlkit",
)


def _licence(name: str) -> str:
    try:
        data = metadata.metadata(name)
    except metadata.PackageNotFoundError:
        return ""
    text = next((data[key] for key in ("License-Expression", "License") if key in data), "")
    return f"{name} {data['Version']}: {text.splitlines()[0][:60] if text else 'see its own files'}"


class AboutDialog(Sheet):
    """Version and licences."""

    def __init__(self, parent: QWidget | None) -> None:
        super().__init__(parent, f"Even Beam {even_beam.__version__}", "Close", cancel="", width=600)
        lines = [
            "A test bench for film lights: plan, measure, question, keep and compare on even terms.",
            "Free software under the GNU General Public License, version 3 or later; it comes without any warranty.",
            "Its figures are about cameras and pictures. It makes no assessment for eyes, skin or mains safety.",
            f"The log: {places.log_file()}",
            "",
            "Fonts: B612, SIL Open Font License 1.1. Icons: Lucide, ISC licence.",
            "Published tables: CIE, JIS, EBU, each with its source in light/tables/README.md.",
            *filter(None, (_licence(name) for name in _PARTS)),
        ]
        text = label("\n".join(lines), "quiet", wrap=True)
        scroll = QScrollArea()
        scroll.setWidget(text)
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QScrollArea.Shape.NoFrame)
        scroll.setMinimumHeight(380)
        self.body.addWidget(scroll)
