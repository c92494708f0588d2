"""Courses in the database: read, change, undo, redo, delete and bring back."""

import json
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import Engine, delete, func, select
from sqlalchemy.orm import Session

from caldarium.core.plan.course import Course
from caldarium.core.plan.versions import upgraded
from caldarium.store.models import CourseRow, RevisionRow

KEPT_REVISIONS = 300
KEPT_DOCUMENTS = 16


class NoSuchCourseError(LookupError):
    """There is no course of that number, or it has been deleted."""


@dataclass(frozen=True)
class Listed:
    """A line of the list of courses."""

    id: int
    name: str
    changed_at: datetime


@dataclass(frozen=True)
class Held:
    """A course as the database holds it: its value, and what undo and redo would do."""

    id: int
    course: Course
    revision: int
    undo: str | None
    redo: str | None


class _Documents:
    """Courses by their document's text, the last few, so that a document is read once."""

    def __init__(self) -> None:
        self._read: dict[str, Course] = {}

    def course(self, document: str) -> Course:
        """The course a document holds."""
        found = self._read.get(document)
        if found is None:
            found = Course.model_validate(upgraded(json.loads(document)), strict=False)
            self.keep(document, found)
        return found

    def keep(self, document: str, course: Course) -> None:
        """Remember what a document holds."""
        self._read[document] = course
        while len(self._read) > KEPT_DOCUMENTS:
            self._read.pop(next(iter(self._read)), None)


class Courses:
    """All courses of one database. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._documents = _Documents()

    def list(self) -> list[Listed]:
        """Courses, last changed first."""
        with Session(self._engine) as session:
            rows = session.scalars(
                select(CourseRow)
                .where(CourseRow.deleted_at.is_(None))
                .order_by(CourseRow.changed_at.desc(), CourseRow.id.desc())
            )
            return [Listed(row.id, row.name, row.changed_at) for row in rows]

    def add(self, course: Course, change: str) -> int:
        """A new course; returns its number."""
        now = datetime.now(UTC)
        with Session(self._engine) as session, session.begin():
            row = CourseRow(name=course.name, head=1, changed_at=now)
            session.add(row)
            session.flush()
            session.add(_revision(row.id, 1, change, course, now))
            return row.id

    def get(self, number: int) -> Held:
        """A course as it stands.

        Raises:
            NoSuchCourseError: if there is none.
        """
        with Session(self._engine) as session:
            row = _row(session, number)
            current = _at(session, number, row.head)
            assert current is not None
            following = _at(session, number, row.head + 1)
            before = _at(session, number, row.head - 1)
            return Held(
                id=number,
                course=self._documents.course(current.document),
                revision=row.head,
                undo=current.change if before else None,
                redo=following.change if following else None,
            )

    def change(self, number: int, change: str, alter: Callable[[Course], Course]) -> bool:
        """Replace a course by an altered one, unless nothing differs.

        Returns:
            Whether anything changed.

        Raises:
            NoSuchCourseError: if there is none.
        """
        with Session(self._engine) as session, session.begin():
            row = _row(session, number)
            current = _at(session, number, row.head)
            assert current is not None
            before = self._documents.course(current.document)
            after = alter(before)
            if after == before:
                return False
            session.execute(
                delete(RevisionRow).where(
                    RevisionRow.course_id == number,
                    (RevisionRow.number > row.head)
                    | (RevisionRow.number <= row.head - KEPT_REVISIONS),
                )
            )
            now = datetime.now(UTC)
            revision = _revision(number, row.head + 1, change, after, now)
            session.add(revision)
            self._documents.keep(revision.document, after)
            _move(row, row.head + 1, after, now)
            return True

    def undo(self, number: int) -> bool:
        """One step back; False at the beginning."""
        return self._step(number, -1)

    def redo(self, number: int) -> bool:
        """One step forward again; False at the end."""
        return self._step(number, 1)

    def _step(self, number: int, by: int) -> bool:
        with Session(self._engine) as session, session.begin():
            row = _row(session, number)
            target = _at(session, number, row.head + by)
            if target is None:
                return False
            course = self._documents.course(target.document)
            _move(row, target.number, course, datetime.now(UTC))
            return True

    def delete(self, number: int) -> None:
        """Put a course away; `restore` brings it back."""
        with Session(self._engine) as session, session.begin():
            _row(session, number).deleted_at = datetime.now(UTC)

    def restore(self, number: int) -> None:
        """Bring a deleted course back.

        Raises:
            NoSuchCourseError: if there never was one.
        """
        with Session(self._engine) as session, session.begin():
            row = session.get(CourseRow, number)
            if row is None:
                raise NoSuchCourseError(number)
            row.deleted_at = None

    def last_deleted(self) -> Listed | None:
        """The course deleted last, if any."""
        with Session(self._engine) as session:
            row = session.scalars(
                select(CourseRow)
                .where(CourseRow.deleted_at.is_not(None))
                .order_by(CourseRow.deleted_at.desc())
                .limit(1)
            ).first()
            return Listed(row.id, row.name, row.changed_at) if row else None

    def count(self) -> int:
        """Courses ever made here, deleted ones too."""
        with Session(self._engine) as session:
            return session.scalar(select(func.count(CourseRow.id))) or 0


def _row(session: Session, number: int) -> CourseRow:
    row = session.get(CourseRow, number)
    if row is None or row.deleted_at is not None:
        raise NoSuchCourseError(number)
    return row


def _at(session: Session, course: int, number: int) -> RevisionRow | None:
    return session.scalars(
        select(RevisionRow).where(RevisionRow.course_id == course, RevisionRow.number == number)
    ).first()


def _revision(
    course_id: int, number: int, change: str, course: Course, now: datetime
) -> RevisionRow:
    return RevisionRow(
        course_id=course_id,
        number=number,
        made_at=now,
        change=change,
        document=course.model_dump_json(),
    )


def _move(row: CourseRow, head: int, course: Course, now: datetime) -> None:
    row.head = head
    row.name = course.name
    row.changed_at = now
