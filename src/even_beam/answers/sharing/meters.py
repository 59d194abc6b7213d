"""Whether the meters of a logbook agree, in words and as JSON: also those of two benches, once they are merged."""

from collections.abc import Iterator, Sequence
from typing import Any

from even_beam.collection.collection import Collection
from even_beam.known.meters_agree import Agreement, agreements
from even_beam.logbook.store import Logbook
from even_beam.words import notation

_MORE = {"level": ("brighter", "darker"), "white": ("warmer", "cooler"), "tint": ("greener", "more magenta")}
_DECIMALS = {"level": 2, "white": 1, "tint": 4, "Ra": 1}


class MetersAgree:
    """What is told of every two meters that read the same lamps at the same terms."""

    def __init__(self, logbook: Logbook) -> None:
        collection = Collection(logbook)
        self._names = {meter.id: meter.nickname for meter in collection.meters.values()}
        self.found: Sequence[Agreement] = agreements(collection.entrants())

    def lines(self, meter_id: str = "") -> Iterator[str]:
        """A sentence each, of one meter or of all."""
        for one in self.found:
            if meter_id in ("", one.first, one.second):
                yield self._sentence(one)

    def _sentence(self, one: Agreement) -> str:
        first, second = self._names.get(one.first, "?"), self._names.get(one.second, "?")
        rests = f"{notation.count(len(one.pairs), 'pair')} of {notation.listed(one.lamps)}"
        half = f"±{notation.plain(one.half_width, _DECIMALS[one.asked.name])} {one.asked.unit}".rstrip()
        if not one.is_enough:
            pairs = "once" if len(one.pairs) == 1 else "twice"
            return (
                f"{first} and {second} have read one light {pairs} for {one.asked.name}: too little to tell whether"
                f" they agree ({rests})."
            )
        if not one.is_told:
            said = f"{first} and {second} agree in {one.asked.name}, as far as can be told ({half}; {rests})."
        else:
            size = f"{notation.plain(abs(one.difference), _DECIMALS[one.asked.name])} {one.asked.unit}".rstrip()
            more = _MORE.get(one.asked.name, ("higher", "lower"))[one.difference < 0.0]
            reads = one.asked.name if one.asked.name == "Ra" else ""
            said = f"{first} reads {' '.join(filter(None, (reads, size, more)))} than {second} ({half}; {rests})."
        if one.has_drifted and one.drift is not None:
            moved = notation.plain(abs(one.drift[0]), _DECIMALS[one.asked.name])
            said += f" That changed by {moved} {one.asked.unit} over the time."
        return said

    def as_json(self) -> list[dict[str, Any]]:
        """For other programs (docs/file-format.md)."""
        return [
            {
                "meters": [self._names.get(one.first, ""), self._names.get(one.second, "")],
                "quantity": one.asked.name,
                "unit": one.asked.unit,
                "difference": one.difference,
                "uncertainty": one.half_width,
                "told": one.is_told,
                "pairs": [
                    {"lamp": pair.lamp, "at": pair.at.isoformat(), "difference": pair.difference} for pair in one.pairs
                ],
                "drift": None if one.drift is None else {"value": one.drift[0], "uncertainty": one.drift[1]},
            }
            for one in self.found
        ]
