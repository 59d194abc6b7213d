"""Where the characters of a printed page stand, read from the PDF itself by a library that did not make it."""

from pathlib import Path

from pdfminer.high_level import extract_pages
from pdfminer.layout import LTChar


def _characters(node):
    if isinstance(node, LTChar):
        if node.get_text().strip():
            yield node
    elif hasattr(node, "__iter__"):
        for part in node:
            yield from _characters(part)


def printed_over(path: Path) -> list[tuple[int, str, str]]:
    """Characters that stand on others: page, the one, the other."""
    found = []
    for number, page in enumerate(extract_pages(path), start=1):
        characters = sorted(_characters(page), key=lambda one: one.x0)
        for at, one in enumerate(characters):
            for other in characters[at + 1 :]:
                if other.x0 >= one.x1:
                    break
                across = min(one.x1, other.x1) - other.x0
                along = min(one.y1, other.y1) - max(one.y0, other.y0)
                if across > 0.35 * min(one.width, other.width) and along > 0.5 * min(one.height, other.height):
                    found.append((number, one.get_text(), other.get_text()))
    return found
