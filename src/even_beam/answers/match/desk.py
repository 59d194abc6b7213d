"""Lamps matched to a target: the answers of all of them, and what stands between them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from even_beam.answers.findings.witness import Witness
from even_beam.answers.match.lamp import Lamp, light_of
from even_beam.answers.match.stock import stock_of
from even_beam.answers.match.target_text import target_of_lamp
from even_beam.answers.spectrum.subjects import SEEN, words_of
from even_beam.bench.target import Target, matches
from even_beam.collection.collection import Collection
from even_beam.collection.mean_spectrum import spectrum_of
from even_beam.known.choice import Entrant
from even_beam.known.matching.answer import Answer
from even_beam.known.matching.clashes import Pair, pairs, price
from even_beam.known.matching.dial import dial_answer
from even_beam.known.matching.gels import Wanting, gel_answers
from even_beam.light.filters import brought
from even_beam.light.gel_packs import Stock
from even_beam.light.spectra import FloatArray
from even_beam.light.ssi import similarity
from even_beam.light.subjects import seen_by_eye
from even_beam.light.tlci import matching


@dataclass(frozen=True, eq=False, slots=True)
class Matched:
    """The answers for a target, the pairs of sources, and those of which no white was read, by name."""

    target: Target
    answers: tuple[Answer, ...]
    pairs: tuple[Pair, ...]
    unread: tuple[str, ...]
    gels: tuple[str, ...]


class Matching:
    """Asks of lamps what makes them agree. Spectra are read once."""

    def __init__(self, collection: Collection, entrants: Sequence[Entrant], gels: str = "") -> None:
        witness = Witness(collection)
        found = [(entrant, Lamp.of(entrant, witness.evidence(entrant))) for entrant in entrants]
        self._collection = collection
        self.lamps = [lamp for _, lamp in found if lamp is not None]
        self.unread = tuple(entrant.name for entrant, lamp in found if lamp is None)
        readings = [m for entrant in entrants for m in entrant.readings]
        self.stock: Stock = stock_of(collection, gels, readings)
        self._spectra: dict[tuple[str, ...], FloatArray | None] = {}

    def matched(self, target: Target, most_pairs: int | None = None) -> Matched:
        """Every lamp's answer for one target, the farthest off first; the spectra of so many pairs are compared, of all
        where nobody says."""
        answers = self._answers(target)
        answers.sort(key=lambda one: (one.leaves, -abs(one.off[0])))
        return Matched(target, tuple(answers), tuple(self._pairs(answers, most_pairs)), self.unread, self.stock.names)

    def cheapest(self) -> Target:
        """The lamp's white that costs least to follow. Raises `ValueError` without any."""
        targets = [target_of_lamp(lamp) for lamp in self.lamps]
        if not targets:
            raise ValueError("no white was read of any of them")
        return min(targets, key=lambda target: price(self._answers(target)))

    def _answers(self, target: Target) -> list[Answer]:
        answers = [lamp.answer(target) for lamp in self.lamps]
        own = [self._spectrum(one) for one in answers]
        wants = [
            (spectrum is not None or not matches(*one.dialled)) and not (one.dial is not None and one.dial.unread)
            for one, spectrum in zip(answers, own, strict=True)
        ]
        wanting = [
            Wanting(
                light=light_of(one, spectrum),
                target=target,
                tint_known=one.dialled[1] is not None,
                tint_told=one.tint_is_told,
                dials=(one.dial is not None and one.dial.reachable) or one.to_colour is not None,
                own_spectrum=spectrum is not None,
            )
            for one, spectrum, wanted in zip(answers, own, wants, strict=True)
            if wanted  # what has a white alone, and passes with it, needs no gel and no light to try one on
        ]
        packs = iter(gel_answers(wanting, self.stock))
        return [
            self._followed(
                lamp,
                replace(
                    one,
                    gels=next(packs) if wanted else (),
                    no_spectrum=spectrum is None,
                    gels_tried=bool(self.stock.names),
                ),
            )
            for lamp, one, spectrum, wanted in zip(self.lamps, answers, own, wants, strict=True)
        ]

    @staticmethod
    def _followed(lamp: Lamp, answer: Answer) -> Answer:
        """Where a lamp has both a dial and gels, the dial makes up for what the gel does to the white."""
        if answer.dial is None or not answer.dial.reachable or not answer.gels:
            return answer
        gel, target = answer.gels[0], answer.target
        moved = gel.mired_off - answer.dialled[0]
        dial = dial_answer(lamp.dialled, replace(target, cct_k=1e6 / (1e6 / target.cct_k - moved)), answer.dial.steps)
        if dial is None or not dial.reachable:
            return answer
        then = replace(gel, mired_off=dial.mired + moved - 1e6 / target.cct_k)
        return replace(answer, dial=dial, gels=(then,))

    def _spectrum(self, answer: Answer) -> FloatArray | None:
        if answer.readings not in self._spectra:
            self._spectra[answer.readings] = spectrum_of(answer.readings, self._collection)
        return self._spectra[answer.readings]

    def _pairs(self, answers: Sequence[Answer], most: int | None) -> list[Pair]:
        """Every pair, with what their spectra say as they were read, and once both have the target's white."""
        found = pairs(answers)
        seen = found[:most]
        agreed = {one.readings: self._agreed(one) for pair in seen for one in (pair.a, pair.b)}
        return [*(self._with_spectra(pair, agreed) for pair in seen), *found[len(seen) :]]

    def _agreed(self, answer: Answer) -> FloatArray | None:
        own = self._spectrum(answer)
        return None if own is None else brought(own, answer.target.cct_k, answer.target.duv)

    def _with_spectra(self, pair: Pair, agreed: Mapping[tuple[str, ...], FloatArray | None]) -> Pair:
        ours, theirs = self._spectrum(pair.a), self._spectrum(pair.b)
        our_light, their_light = agreed[pair.a.readings], agreed[pair.b.readings]
        if ours is None or theirs is None or our_light is None or their_light is None:
            return pair
        return replace(
            pair,
            tlmf=float(matching(ours, theirs)),
            ssi=float(similarity(ours, theirs)),
            subjects=_subjects(our_light, their_light),
        )


def _subjects(ours: FloatArray, theirs: FloatArray) -> str:
    """The subject that changes most from one light to another of the same white: what no dial and no gel mends."""
    most = max(seen_by_eye(ours, theirs), key=lambda shift: shift.mean)
    return "as one" if most.mean <= SEEN else f"{most.subject} {words_of(most)}: {most.mean:.1f}"
