"""What happened on courses, in the database: the diary, to which is added, and thermometers.

A course's document in the database is without its log, so that no edit of the plan carries it
along and what is personal can be deleted for good; what leaves the database has both.
"""

from collections.abc import Callable, Sequence

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Entry, Log, Thermometer, person_of
from caldarium.store.database import writing
from caldarium.store.models import LogEntryRow, ThermometerRow
from caldarium.store.told import add_once


class Logs:
    """Everything logged of the courses of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def of(self, course: int) -> Log:
        """Everything logged of a course, in the order in which it came."""
        with Session(self._engine) as session:
            entries = session.scalars(
                select(LogEntryRow.document)
                .where(LogEntryRow.course_id == course)
                .order_by(LogEntryRow.id)
            )
            thermometers = session.scalars(
                select(ThermometerRow.document)
                .where(ThermometerRow.course_id == course)
                .order_by(ThermometerRow.id)
            )
            return Log.model_construct(
                thermometers=tuple(Thermometer.model_validate_json(each) for each in thermometers),
                entries=tuple(Entry.model_validate_json(each) for each in entries),
            )

    def logged(self) -> list[int]:
        """Numbers of courses of which anything was logged."""
        with Session(self._engine) as session:
            found = {
                *session.scalars(select(LogEntryRow.course_id).distinct()),
                *session.scalars(select(ThermometerRow.course_id).distinct()),
            }
            return sorted(found)

    def tell(self, course: int, entries: Sequence[Entry]) -> int:
        """Add what is told; returns how many things were new. See add_once."""
        with writing(self._engine) as session:
            return add_once(session, LogEntryRow, course, entries)

    def put(self, course: int, thermometers: Sequence[Thermometer]) -> None:
        """Keep thermometers; those of their ids before are replaced."""
        with writing(self._engine) as session:
            _put(session, course, thermometers)

    def remove(self, course: int, thermometer: str) -> None:
        """Forget a thermometer and its readings."""
        with writing(self._engine) as session:
            session.execute(
                delete(ThermometerRow).where(
                    ThermometerRow.course_id == course, ThermometerRow.key == thermometer
                )
            )

    def forget(self, course: int, which: Callable[[Entry], bool]) -> int:
        """Delete entries for good, such as one person's, or a night's.

        Returns:
            How many there were.
        """
        with writing(self._engine) as session:
            rows = session.scalars(select(LogEntryRow).where(LogEntryRow.course_id == course))
            gone = [row for row in rows if which(Entry.model_validate_json(row.document))]
            for row in gone:
                session.delete(row)
            return len(gone)

    def forget_person(self, course: int, person: str) -> int:
        """Delete all that was told of one person for good, and what was read in their bed or
        pocket."""
        with writing(self._engine) as session:
            rows = session.scalars(select(ThermometerRow).where(ThermometerRow.course_id == course))
            for row in rows:
                read = Thermometer.model_validate_json(row.document)
                if read.where in ("bed", "pocket") and read.of == person:
                    session.delete(row)
        return self.forget(course, lambda each: person_of(each) == person)


def keep_log(session: Session, course: int, log: Log) -> None:
    """Keep the log that a course came with."""
    add_once(session, LogEntryRow, course, log.entries)
    _put(session, course, log.thermometers)


def with_log(course: Course, log: Log) -> Course:
    """A course as it leaves the database."""
    return course.model_copy(update={"log": log})


def _put(session: Session, course: int, thermometers: Sequence[Thermometer]) -> None:
    for each in thermometers:
        row = session.scalars(
            select(ThermometerRow).where(
                ThermometerRow.course_id == course, ThermometerRow.key == each.id
            )
        ).first()
        if row is None:
            row = ThermometerRow(course_id=course, key=each.id, document="")
            session.add(row)
        row.document = each.model_dump_json()
        session.flush()
