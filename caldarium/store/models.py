"""Tables. A course is a chain of whole revisions, so every change is one row and one step back."""

from datetime import datetime

from sqlalchemy import ForeignKey, Text, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Registry of the tables."""


class CourseRow(Base):
    """A course: where its chain of revisions stands now."""

    __tablename__ = "course"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    head: Mapped[int]
    changed_at: Mapped[datetime]
    deleted_at: Mapped[datetime | None]


class RevisionRow(Base):
    """One state of a course, and what the user did to reach it."""

    __tablename__ = "revision"
    __table_args__ = (UniqueConstraint("course_id", "number"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    course_id: Mapped[int] = mapped_column(ForeignKey("course.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    made_at: Mapped[datetime]
    change: Mapped[str]
    document: Mapped[str] = mapped_column(Text)


class PieceRow(Base):
    """A piece of the store; key is its tag in lower case, which is unique."""

    __tablename__ = "piece"

    id: Mapped[int] = mapped_column(primary_key=True)
    tag: Mapped[str]
    key: Mapped[str] = mapped_column(unique=True)
    kind: Mapped[str]
    retired: Mapped[bool]
    searched: Mapped[str] = mapped_column(Text)
    document: Mapped[str] = mapped_column(Text)


class PieceChangeRow(Base):
    """One change to the store, of one piece or thousands."""

    __tablename__ = "piece_change"

    id: Mapped[int] = mapped_column(primary_key=True)
    made_at: Mapped[datetime]
    words: Mapped[str]
    undone: Mapped[bool]


class PieceEventRow(Base):
    """What a change did to one piece: as it was (none for a new one) and as it became."""

    __tablename__ = "piece_event"

    id: Mapped[int] = mapped_column(primary_key=True)
    change_id: Mapped[int] = mapped_column(
        ForeignKey("piece_change.id", ondelete="CASCADE"), index=True
    )
    key: Mapped[str] = mapped_column(index=True)
    before: Mapped[str | None] = mapped_column(Text)
    after: Mapped[str] = mapped_column(Text)


class KitSetRow(Base):
    """A set of kit; key is its name in lower case, which is unique."""

    __tablename__ = "kit_set"

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(unique=True)
    document: Mapped[str] = mapped_column(Text)


class GearListRow(Base):
    """A list of gear that the school keeps; key is its id."""

    __tablename__ = "gear_list"

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(unique=True)
    document: Mapped[str] = mapped_column(Text)


class CheckEventRow(Base):
    """One thing told of a course's check; nothing here is ever changed or deleted. token is its
    sender's own, so that what is sent twice is kept once."""

    __tablename__ = "check_event"

    id: Mapped[int] = mapped_column(primary_key=True)
    course_id: Mapped[int] = mapped_column(ForeignKey("course.id", ondelete="CASCADE"), index=True)
    token: Mapped[str] = mapped_column(unique=True)
    received_at: Mapped[datetime]
    document: Mapped[str] = mapped_column(Text)


class LogEntryRow(Base):
    """One thing told of what happened on a course; added to, and deleted only with whoever or
    whatever it is of."""

    __tablename__ = "log_entry"
    __table_args__ = (UniqueConstraint("course_id", "token"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    course_id: Mapped[int] = mapped_column(ForeignKey("course.id", ondelete="CASCADE"), index=True)
    token: Mapped[str]
    received_at: Mapped[datetime]
    document: Mapped[str] = mapped_column(Text)


class ThermometerRow(Base):
    """One channel of a thermometer with what it read on a course; key is its id there."""

    __tablename__ = "thermometer"
    __table_args__ = (UniqueConstraint("course_id", "key"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    course_id: Mapped[int] = mapped_column(ForeignKey("course.id", ondelete="CASCADE"), index=True)
    key: Mapped[str]
    document: Mapped[str] = mapped_column(Text)


class CsvColumnRow(Base):
    """What a header of people's own spreadsheets is taken for; header is in lower case."""

    __tablename__ = "csv_column"

    header: Mapped[str] = mapped_column(primary_key=True)
    column: Mapped[str]
