"""What is said of readings after they were taken: taken back, set aside, corrected, named, seen, photographed."""

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from even_beam.bench.judging.control import suspect_stretch
from even_beam.bench.limits import ImpossibleError, impossible_term
from even_beam.bench.measured import Measured
from even_beam.bench.observations import ANSWERS, Observation, Photo
from even_beam.bench.records import Event, EventKind, Session, Terms, new_id
from even_beam.bench.run import term_to_text
from even_beam.bench.target import Look, Target, target_set, target_to_text
from even_beam.collection.collection import session_state
from even_beam.desk.session.photos import Picture, read_photo
from even_beam.desk.session.record import Clock, SessionRecord

if TYPE_CHECKING:
    from even_beam.logbook.store import Logbook


class SessionMarks(SessionRecord):
    """A session whose readings can be marked. Every mark is an event and can be undone."""

    def __init__(self, logbook: "Logbook", session: Session, clock: Clock) -> None:
        self._look_readings: dict[str, tuple[Measured, ...]] = {}
        super().__init__(logbook, session, clock)

    def keep_in_doubt(self, reading_id: str) -> None:
        """Keep a doubtful reading on purpose."""
        self._add(EventKind.KEPT_IN_DOUBT, reading_id=reading_id)

    def take_back(self) -> Measured | None:
        """Take back the newest reading that stands; returns it, None when there is none. It stays in the logbook."""
        last = self.state.last_reading
        if last is None:
            return None
        self._add(EventKind.TAKEN_BACK, reading_id=last.reading.id)
        return self.of(last.reading.id)

    def set_aside(self, reading_id: str, reason: str) -> None:
        """Leave a reading out of every figure, with the reason."""
        self._add(EventKind.SET_ASIDE, reading_id=reading_id, reason=reason)

    def may_have_moved(self) -> Sequence[Measured]:
        """What was read since the last control point that agrees: something may have moved before any of it."""
        return suspect_stretch(self.counted)

    def something_moved(self, since: str) -> Sequence[Measured]:
        """Mark suspect what was read from a reading on, until a control point agrees again; returns it.

        What was said before of the same stretch is taken back: it moved since then, not earlier.
        """
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        stretch = {measured.reading.id for measured in self.may_have_moved()}
        before = [e for e in self._said_to_have_moved() if e.reading_id in stretch]
        undone = [self._event(EventKind.UNDONE, sequence + i, moment, undoes=e.id) for i, e in enumerate(before)]
        kind, place = EventKind.SUSPECT_FROM, sequence + len(undone)
        self._keep_events([*undone, self._event(kind, place, moment, reading_id=since, reason="something moved")])
        return [m for m in self.counted if m.state.suspect]

    def nothing_moved(self) -> None:
        """Take back all that said that something had moved: it is trusted again."""
        self._undo_act(self._said_to_have_moved())

    def _said_to_have_moved(self) -> list[Event]:
        return [event for event in self.state.live_events if event.kind is EventKind.SUSPECT_FROM]

    # --- right reading, other terms

    def correct_terms(self, reading_ids: Sequence[str], name: str, value: object, reason: str = "") -> None:
        """Right reading, wrong terms: correct one field of one reading or of a stretch. One undo reverses all.

        Raises `ImpossibleError` for a term that cannot be.
        """
        self.correct_all(reading_ids, {name: value}, reason)

    def correct_all(self, reading_ids: Sequence[str], changes: Mapping[str, object], reason: str = "") -> None:
        """The same for several fields at once: one act, one undo. Nothing is kept where nothing changes."""
        wanted = [(i, name, value) for name, value in changes.items() for i in reading_ids]
        if wanted:
            self._change_terms(EventKind.TERMS_CORRECTED, wanted, reason)

    def lamp_shows(self, reading_id: str, changes: dict[str, object]) -> None:
        """The lamp displayed other terms than it was asked for; the reading counts for what was displayed."""
        self._change_terms(EventKind.LAMP_SHOWS, [(reading_id, name, value) for name, value in changes.items()])

    def _change_terms(self, kind: EventKind, changes: Sequence[tuple[str, str, object]], reason: str = "") -> None:
        for _, name, value in changes:
            if (problem := impossible_term(name, value)) is not None:
                raise ImpossibleError(problem)
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        events = [
            self._event(
                kind,
                sequence + i,
                moment,
                reading_id=reading_id,
                field=name,
                old=term_to_text(getattr(self.of(reading_id).terms, name)),
                new=term_to_text(value),
                reason=reason,
            )
            for i, (reading_id, name, value) in enumerate(changes)
        ]
        self._keep_events(events)

    def name_source(self, reading_ids: Sequence[str], source_id: str) -> None:
        """Say afterwards which lamp was read."""
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        events = [
            self._event(EventKind.SOURCE_NAMED, sequence + i, moment, reading_id=reading_id, new=source_id)
            for i, reading_id in enumerate(reading_ids)
        ]
        self._keep_events(events)

    # --- by eye and ear

    def observe(
        self,
        subject: str,
        finding: str,
        note: str,
        source_ids: tuple[str, ...],
        terms: Terms,
        photos: Sequence[Path] = (),
    ) -> Observation:
        """Keep what was seen or heard, with photos. Raises `PhotoError` before anything is kept."""
        pictures = [read_photo(path) for path in photos]
        sequence, moment = self.logbook.next_sequence(self.session.id), self._moment()
        seen = Observation(
            id=new_id(),
            session_id=self.session.id,
            at=moment,
            source_ids=source_ids,
            terms=terms,
            subject=subject,
            finding=finding,
            note=note,
        )
        kept = [
            Photo(
                id=new_id(),
                session_id=self.session.id,
                at=moment,
                name=p.name,
                media_type=p.media_type,
                image=p.image,
                thumbnail=p.thumbnail,
                observation_id=seen.id,
            )
            for p in pictures
        ]
        event = self._event(
            EventKind.OBSERVED, sequence, moment, field=subject, new=seen.id, reason=seen.sentence,
            step_id=self._step_answered_by(subject, source_ids),
        )  # fmt: skip
        self.logbook.add_observation(seen, kept, [event])
        self._note_events([event])
        return seen

    def _step_answered_by(self, subject: str, source_ids: tuple[str, ...]) -> str | None:
        """The present step, where all that it asks of these lamps is said by eye."""
        here = self.state.step
        if here is None or here.step.source_ids != source_ids or not here.step.quantities:
            return None
        return here.step.id if set(here.step.quantities) <= ANSWERS.get(subject, frozenset()) else None

    def add_photo(self, path: Path, reading_id: str) -> Photo:
        """Keep a photo with a reading. Raises `PhotoError`."""
        return self.add_picture(read_photo(path), reading_id)

    def add_picture(self, picture: Picture, reading_id: str) -> Photo:
        """Keep a picture with a reading."""
        event = self._next_event(EventKind.PHOTO_ADDED, reading_id=reading_id, new=new_id(), reason=picture.name)
        photo = Photo(
            id=event.new,
            session_id=self.session.id,
            at=event.at,
            name=picture.name,
            media_type=picture.media_type,
            image=picture.image,
            thumbnail=picture.thumbnail,
            reading_id=reading_id,
        )
        self.logbook.add_photo(photo, event)
        self._note_events([event])
        return photo

    def observations(self) -> list[Observation]:
        """What was seen and heard in this session and not undone, in order."""
        live = self._named(EventKind.OBSERVED)
        return [seen for seen in self.logbook.of_session(Observation, self.session.id) if seen.id in live]

    def photos(self) -> list[Photo]:
        """The photos of this session that were not undone, in order."""
        live = self._named(EventKind.OBSERVED) | self._named(EventKind.PHOTO_ADDED)
        found = self.logbook.of_session(Photo, self.session.id)
        return [photo for photo in found if photo.id in live or photo.observation_id in live]

    def _named(self, kind: EventKind) -> set[str]:
        return {event.new for event in self.state.live_events if event.kind is kind}

    # --- a target on location

    @property
    def target(self) -> Target | None:
        """The white that all sources shall have; None outside target mode."""
        return target_set(self.state.live_events)

    def set_target(self, target: Target | None) -> None:
        """Enter target mode, change the target, or leave it."""
        self._add(EventKind.TARGET_SET, new=target_to_text(target) if target is not None else "")

    def looks(self) -> list[Look]:
        """Every look of the logbook, by name."""
        return self.logbook.all(Look)

    def readings_of_look(self, look: Look) -> tuple[Measured, ...]:
        """The readings a look was kept with, of whatever session."""
        if look.id not in self._look_readings:
            sessions = self.logbook.sessions_of(look.reading_ids)
            found = [m for session_id in sessions for m in session_state(self.logbook, session_id)[1]]
            self._look_readings[look.id] = tuple(m for m in found if m.reading.id in look.reading_ids)
        return self._look_readings[look.id]

    def keep_look(self, name: str) -> Look:
        """Keep the target with the readings made towards it, to come back to. Raises `ValueError` without a target."""
        target = self.target
        if target is None:
            raise ValueError("there is no target to keep")
        lit = tuple(m.reading.id for m in self.counted if m.value("cct") is not None)
        event = self._next_event(EventKind.LOOK_KEPT, new=new_id(), reason=name)
        look = Look(id=event.new, name=name, at=event.at, cct_k=target.cct_k, duv=target.duv, reading_ids=lit)
        self._save(look, told=event)
        return look
