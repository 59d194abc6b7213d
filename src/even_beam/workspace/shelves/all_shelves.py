"""Every shelf of a Kit."""

from datetime import date

from even_beam.workspace.kit.desk import KitDesk
from even_beam.workspace.shelves.lamp_shelf import LampShelf
from even_beam.workspace.shelves.limit_shelf import LimitShelf
from even_beam.workspace.shelves.meter_shelf import MeterShelf
from even_beam.workspace.shelves.modifier_shelf import ModifierShelf
from even_beam.workspace.shelves.shelf import Shelf, ShelfName
from even_beam.workspace.shelves.subject_shelf import SubjectShelf


def shelves_of(kit: KitDesk, today: date) -> dict[ShelfName, Shelf]:
    """The shelves by name; `today` tells which lamps are due back."""
    return {
        ShelfName.LAMPS: LampShelf(kit, today),
        ShelfName.MODIFIERS: ModifierShelf(kit),
        ShelfName.SUBJECTS: SubjectShelf(kit),
        ShelfName.METERS: MeterShelf(kit),
        ShelfName.LIMITS: LimitShelf(kit),
    }
