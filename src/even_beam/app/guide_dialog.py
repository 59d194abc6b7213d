"""The user guide, shipped with the program: short pages in Markdown, opened without a network."""

from importlib.resources import files

from PyQt6.QtCore import QUrl
from PyQt6.QtWidgets import QTextBrowser, QWidget

from even_beam.app import theme
from even_beam.app.dialogs import Sheet

FIRST = "index.md"


def page(name: str) -> str:
    """The text of a page. Raises `FileNotFoundError` for one that there is not."""
    return files("even_beam.guide").joinpath(name).read_text(encoding="utf-8")


class GuideDialog(Sheet):
    """Shows a page; links lead to the others."""

    def __init__(self, parent: QWidget | None, name: str = FIRST) -> None:
        super().__init__(parent, "User guide", "Close", cancel="", width=760)
        self.browser = QTextBrowser()
        self.browser.setAccessibleName("User guide")
        self.browser.setOpenLinks(False)
        self.browser.setFont(theme.font("body"))
        self.browser.anchorClicked.connect(self._follow)
        self.body.addWidget(self.browser, 1)
        self.resize(760, 640)
        self.show_page(name)

    def show_page(self, name: str) -> None:
        """Go to a page."""
        self.browser.setMarkdown(page(name))

    def _follow(self, link: QUrl) -> None:
        if link.isRelative() and link.fileName().endswith(".md"):
            self.show_page(link.fileName())
