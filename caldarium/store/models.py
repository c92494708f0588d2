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
