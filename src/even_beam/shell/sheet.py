"""Figures in rows and columns, a row a lamp, each cell with what it sorts by."""

from dataclasses import dataclass

from even_beam.words import notation


@dataclass(frozen=True, slots=True)
class Cell:
    """One cell; `marked` for what stands out, `quiet` for what is only context. `by` is what it is sorted by; None
    stands last."""

    text: str
    marked: bool = False
    quiet: bool = False
    by: float | str | None = None


NOTHING = Cell(notation.NONE, quiet=True)


def figure_cell(text: str, value: float | None) -> Cell:
    """A figure as it is said, sorted by its value; nothing where there is none."""
    return NOTHING if value is None else Cell(text, by=value)


@dataclass(frozen=True, slots=True)
class Sheet:
    """Columns by their headings, and a row a lamp: its key, its series number where it is lit, and its cells."""

    columns: tuple[str, ...] = ()
    rows: tuple[tuple[str, int | None, tuple[Cell, ...]], ...] = ()

    @property
    def filled(self) -> "Sheet":
        """It without the columns that no row has anything in."""
        kept = [
            place
            for place in range(len(self.columns))
            if any(cells[place].text not in {"", notation.NONE} for _, _, cells in self.rows)
        ]
        rows = tuple((key, number, tuple(cells[place] for place in kept)) for key, number, cells in self.rows)
        return Sheet(tuple(self.columns[place] for place in kept), rows)

    @property
    def plain(self) -> str:
        """It as it is copied: rows of cells with tabs between them, the headings first."""
        rows = [self.columns, *(tuple(cell.text for cell in cells) for _, _, cells in self.rows)]
        return "\n".join("\t".join(row) for row in rows) if self.columns else ""
