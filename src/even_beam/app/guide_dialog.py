"""The user guide, shipped with the program: short pages, opened without a network."""

from PyQt6.QtCore import QUrl
from PyQt6.QtWidgets import QWidget

from even_beam.app.dialogs import Sheet
from even_beam.app.guide_pages import GuidePages

FIRST = "index.md"


class GuideDialog(Sheet):
    """Shows a page; links lead to the others."""

    def __init__(self, parent: QWidget | None, name: str = FIRST) -> None:
        super().__init__(parent, "User guide", "Close", cancel="", width=760)
        self.pages = GuidePages()
        self.pages.setAccessibleName("User guide")
        self.pages.anchorClicked.connect(self._follow)
        self.body.addWidget(self.pages, 1)
        self.resize(760, 640)
        self.finished.connect(self.pages.let_go)
        self.pages.show_page(name)

    def _follow(self, link: QUrl) -> None:
        if link.isRelative() and link.fileName().endswith(".md"):
            self.pages.show_page(link.fileName())
