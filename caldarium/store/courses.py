"""Courses in the database: read, change, undo, redo, delete and bring back."""

import json
import zlib
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import Engine, delete, func, select
from sqlalchemy.orm import Session

from caldarium.core.plan.course import Course
from caldarium.core.plan.log import Log
from caldarium.core.plan.merge import Clash, ClashError, merged
from caldarium.core.plan.versions import upgraded
from caldarium.store.database import writing
from caldarium.store.logs import keep_log, with_log
from caldarium.store.models import CourseRow, RevisionRow

KEPT_REVISIONS = 300
KEPT_DOCUMENTS = 32
LARGEST_NUMBER = 2**63 - 1
"""What SQLite counts to."""


class NoSuchCourseError(LookupError):
    """There is no course of that number, or it has been deleted."""


class MovedOnError(LookupError):
    """The course is no longer where somebody saw it, and what they saw is not kept any more."""


class MeanwhileError(ValueError):
    """What was changed, or was to be undone, is not as it was seen.

    Args:
        clashes: places that both changed; none for a step that is not the one that was seen.
        theirs: what was done meanwhile, in the words of its step.
        stands: the mark of the course as it stands now.
    """

    def __init__(self, clashes: tuple[Clash, ...], theirs: str, stands: str) -> None:
        self.clashes, self.theirs, self.stands = clashes, theirs, stands
        super().__init__(theirs)


@dataclass(frozen=True)
class Listed:
    """A line of the list of courses."""

    id: int
    name: str
    changed_at: datetime


@dataclass(frozen=True)
class Held:
    """A course as the database holds it: its value, the mark by which this state is known again,
    and what undo and redo would do."""

    id: int
    course: Course
    mark: str
    undo: str | None
    redo: str | None

    @property
    def revision(self) -> int:
        """How many steps lie behind this state, the first one with them."""
        return int(self.mark.partition(".")[0])


@dataclass(frozen=True)
class Seen:
    """What somebody saw when they changed a course: its mark; and, where they were told of a clash
    and want their own, the mark of the course as it then stood."""

    mark: str = ""
    mine_over: str = ""


NOW = Seen()
"""For changes that begin from the course as it stands."""


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
        """A new course, with the log that it comes with; returns its number."""
        now = datetime.now(UTC)
        with writing(self._engine) as session:
            row = CourseRow(name=course.name, head=1, changed_at=now)
            session.add(row)
            session.flush()
            keep_log(session, row.id, course.log)
            session.add(_revision(row.id, 1, change, with_log(course, Log()), now))
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
                mark=_mark(current),
                undo=current.change if before else None,
                redo=following.change if following else None,
            )

    def seen(self, number: int, mark: str) -> Course:
        """A course as it was when it had this mark; as it stands for an empty one.

        Raises:
            NoSuchCourseError: if there is none.
            MovedOnError: where that state is not kept.
        """
        with Session(self._engine) as session:
            row = _row(session, number)
            return self._documents.course(_marked(session, row, mark).document)

    def change(
        self, number: int, change: str, alter: Callable[[Course], Course], seen: Seen = NOW
    ) -> str:
        """Replace a course by an altered one, unless nothing differs.

        What is altered is the course as it was seen; where it has been changed since, both changes
        are kept. The write lock is taken before anything is read.

        Args:
            number: of the course.
            change: what is done, in words, for undo.
            alter: makes the course that is wanted of the one that was seen.
            seen: which that was.

        Returns:
            The mark from which to go on, empty where nothing changed: of the new state, or of the
            one that was seen where somebody else has changed the course since.

        Raises:
            NoSuchCourseError: if there is none.
            MovedOnError: where what was seen is not kept.
            MeanwhileError: where somebody else changed the same thing.
        """
        with writing(self._engine) as session:
            row = _row(session, number)
            current = _marked(session, row, "")
            basis = _marked(session, row, seen.mark)
            base, before = (self._documents.course(each.document) for each in (basis, current))
            after = alter(base)
            if after == base:
                return ""
            if basis is not current:
                stands = _mark(current)
                try:
                    after = merged(base, after, before, mine_wins=seen.mine_over == stands)
                except ClashError as fault:
                    theirs = _done_since(session, number, basis.number)
                    raise MeanwhileError(fault.clashes, theirs, stands) from fault
                if after == before:
                    return seen.mark
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
            return _mark(revision) if basis is current else seen.mark

    def undo(self, number: int, mark: str = "") -> str:
        """One step back from the state that was seen.

        Returns:
            What was taken back; empty at the beginning.

        Raises:
            MeanwhileError: where the course has moved since it was seen.
        """
        return self._step(number, -1, mark)

    def redo(self, number: int, mark: str = "") -> str:
        """One step forward again; see undo."""
        return self._step(number, 1, mark)

    def _step(self, number: int, by: int, mark: str) -> str:
        with writing(self._engine) as session:
            row = _row(session, number)
            current = _marked(session, row, "")
            if mark and mark != _mark(current):
                raise MeanwhileError((), current.change, _mark(current))
            target = _at(session, number, row.head + by)
            if target is None:
                return ""
            course = self._documents.course(target.document)
            _move(row, target.number, course, datetime.now(UTC))
            return current.change if by < 0 else target.change

    def delete(self, number: int) -> None:
        """Put a course away; `restore` brings it back."""
        with writing(self._engine) as session:
            _row(session, number).deleted_at = datetime.now(UTC)

    def restore(self, number: int) -> None:
        """Bring a deleted course back.

        Raises:
            NoSuchCourseError: if there never was one.
        """
        with writing(self._engine) as session:
            row = session.get(CourseRow, number) if 0 < number <= LARGEST_NUMBER else None
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
    row = session.get(CourseRow, number) if 0 < number <= LARGEST_NUMBER else None
    if row is None or row.deleted_at is not None:
        raise NoSuchCourseError(number)
    return row


def _at(session: Session, course: int, number: int) -> RevisionRow | None:
    return session.scalars(
        select(RevisionRow).where(RevisionRow.course_id == course, RevisionRow.number == number)
    ).first()


def _marked(session: Session, row: CourseRow, mark: str) -> RevisionRow:
    """The revision with a mark; the one that stands for an empty mark."""
    number = row.head
    if mark:
        head, _, _ = mark.partition(".")
        number = int(head) if head.isascii() and head.isdigit() and len(head) < 10 else -1
    found = _at(session, row.id, number)
    if found is None or (mark and _mark(found) != mark):
        raise MovedOnError(mark)
    return found


def _mark(revision: RevisionRow) -> str:
    """By number alone a state is not known again: after an undo the number is given anew."""
    return f"{revision.number}.{zlib.crc32(revision.document.encode()):08x}"


def _done_since(session: Session, course: int, number: int) -> str:
    """What was done after a revision, the last three steps in words."""
    words = session.scalars(
        select(RevisionRow.change)
        .where(RevisionRow.course_id == course, RevisionRow.number > number)
        .order_by(RevisionRow.number.desc())
        .limit(3)
    )
    return "; ".join(reversed(list(words))) or "steps were taken back"


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
