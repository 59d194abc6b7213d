"""Every shelf of a Kit."""

from collections.abc import Callable, Mapping
from datetime import date
from typing import TYPE_CHECKING

from even_beam.answers.kit.lamp_shelf import LampShelf
from even_beam.answers.kit.limit_shelf import LimitShelf
from even_beam.answers.kit.meter_shelf import MeterShelf
from even_beam.answers.kit.modifier_shelf import ModifierShelf
from even_beam.answers.kit.shelf import Shelf, ShelfName
from even_beam.answers.kit.subject_shelf import SubjectShelf
from even_beam.desk.kit.desk import KitDesk

if TYPE_CHECKING:
    from even_beam.instruments.bench_file import Reached


def shelves_of(
    kit: KitDesk, today: date, wired: "Callable[[], Mapping[str, Reached]]" = dict
) -> dict[ShelfName, Shelf]:
    """The shelves by name; `today` tells which lamps are due back, `wired` how meters are reached by their names."""
    return {
        ShelfName.LAMPS: LampShelf(kit, today),
        ShelfName.MODIFIERS: ModifierShelf(kit),
        ShelfName.SUBJECTS: SubjectShelf(kit),
        ShelfName.METERS: MeterShelf(kit, wired),
        ShelfName.LIMITS: LimitShelf(kit),
    }
