"""Pieces of the store in the database; every change is one transaction that can be taken back.

Nothing is ever deleted: pieces retire, and every change keeps what was before it.
"""

import zlib
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import ColumnElement, Engine, bindparam, func, insert, select, update
from sqlalchemy.orm import Session

from caldarium.core.stock.inventory import Stored
from caldarium.store.database import writing
from caldarium.store.models import PieceChangeRow, PieceEventRow, PieceRow

KEPT_CHANGES = 300
"""Changes that can be taken back; of older ones only the words are kept."""
AT_ONCE = 500
"""Rows looked up in one statement; SQLite takes only so many values."""


class NoSuchPieceError(LookupError):
    """There is no piece of that tag."""


@dataclass(frozen=True)
class Found:
    """A page of what a search found: the pieces, and how many there are in all."""

    pieces: tuple[Stored, ...]
    total: int


@dataclass(frozen=True)
class Event:
    """Something that happened to a piece."""

    at: datetime
    words: str
    undone: bool


def mark_of(piece: Stored) -> str:
    """What a state of a piece is known again by."""
    return f"{zlib.crc32(piece.model_dump_json().encode()):08x}"


class Pieces:
    """All pieces of one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def find(
        self,
        words: str = "",
        kind: str = "",
        *,
        retired: bool = False,
        first: int = 0,
        most: int = 50,
    ) -> Found:
        """Pieces in which every word typed occurs somewhere, by tag."""
        wanted: list[ColumnElement[bool]] = [PieceRow.retired.is_(retired)]
        if kind:
            wanted.append(PieceRow.kind == kind)
        wanted += [
            PieceRow.searched.contains(word, autoescape=True) for word in words.lower().split()[:8]
        ]
        with Session(self._engine) as session:
            total = session.scalar(select(func.count(PieceRow.id)).where(*wanted)) or 0
            rows = session.scalars(
                select(PieceRow.document)
                .where(*wanted)
                .order_by(PieceRow.key)
                .offset(max(first, 0))
                .limit(most)
            )
            return Found(tuple(_read(document) for document in rows), total)

    def get(self, tag: str) -> Stored:
        """A piece by its tag, retired ones too.

        Raises:
            NoSuchPieceError: if there is none.
        """
        with Session(self._engine) as session:
            document = session.scalar(select(PieceRow.document).where(PieceRow.key == tag.lower()))
        if document is None:
            raise NoSuchPieceError(tag)
        return _read(document)

    def seen(self, tag: str, mark: str) -> Stored | None:
        """A piece as it was when it had this mark; None where that state is not kept."""
        now = self.get(tag)
        if mark_of(now) == mark:
            return now
        with Session(self._engine) as session:
            documents = session.scalars(
                select(PieceEventRow.after)
                .where(PieceEventRow.key == tag.lower(), PieceEventRow.after != "")
                .order_by(PieceEventRow.id.desc())
            )
            found = (_read(document) for document in documents)
            return next((piece for piece in found if mark_of(piece) == mark), None)

    def known(self, tags: Iterable[str]) -> dict[str, Stored]:
        """The pieces of these tags that there are, by lower-case tag."""
        with Session(self._engine) as session:
            return _known(session, tags)

    def all(self, *, retired: bool = False) -> tuple[Stored, ...]:
        """Every piece, by tag; with the retired ones where asked."""
        wanted = select(PieceRow.document).order_by(PieceRow.key)
        if not retired:
            wanted = wanted.where(PieceRow.retired.is_(False))
        with Session(self._engine) as session:
            return tuple(_read(document) for document in session.scalars(wanted))

    def tags(self) -> set[str]:
        """Every tag in lower case, of retired pieces too."""
        with Session(self._engine) as session:
            return set(session.scalars(select(PieceRow.key)))

    def count(self) -> int:
        """Pieces ever put here."""
        with Session(self._engine) as session:
            return session.scalar(select(func.count(PieceRow.id))) or 0

    def put(self, pieces: Sequence[Stored], words: str) -> int:
        """Add pieces, or change those of the same tag: all of them or none.

        Returns:
            How many were new or differ from what was there.

        Raises:
            ValueError: where a tag comes twice.
        """
        after = {piece.tag.lower(): piece for piece in pieces}
        if len(after) < len(pieces):
            raise ValueError("a tag comes twice")
        with writing(self._engine) as session:
            before = _known(session, after)
            changed = {key: piece for key, piece in after.items() if before.get(key) != piece}
            if not changed:
                return 0
            _forget(session)
            change = PieceChangeRow(made_at=datetime.now(UTC), words=words, undone=False)
            session.add(change)
            session.flush()
            texts = {key: piece.model_dump_json() for key, piece in changed.items()}
            fresh = [_row(piece, texts[key]) for key, piece in changed.items() if key not in before]
            if fresh:
                session.execute(insert(PieceRow), fresh)
            _rewrite(
                session,
                [_row(piece, texts[key]) for key, piece in changed.items() if key in before],
            )
            session.execute(
                insert(PieceEventRow),
                [
                    {
                        "change_id": change.id,
                        "key": key,
                        "after": texts[key],
                        "before": before[key].model_dump_json() if key in before else None,
                    }
                    for key in changed
                ],
            )
        return len(changed)

    def last_change(self) -> str | None:
        """What undo would take back."""
        with Session(self._engine) as session:
            row = _last(session)
            return row.words if row else None

    def undo(self) -> bool:
        """Take the last change back; pieces that were new retire."""
        with writing(self._engine) as session:
            change = _last(session)
            if change is None:
                return False
            events = session.scalars(
                select(PieceEventRow).where(PieceEventRow.change_id == change.id)
            )
            earlier = [
                _read(each.before) if each.before else _read(each.after).altered(retired=True)
                for each in events
            ]
            _rewrite(session, [_row(piece, piece.model_dump_json()) for piece in earlier])
            change.undone = True
            return True

    def masses(self, tag: str) -> list[tuple[datetime, float, str]]:
        """What a piece was said to weigh [g], when, and where that came from, last first; only
        where it changed, as far as its states are kept."""
        with Session(self._engine) as session:
            rows = session.execute(
                select(PieceChangeRow.made_at, PieceEventRow.after)
                .join(PieceEventRow, PieceEventRow.change_id == PieceChangeRow.id)
                .where(
                    PieceEventRow.key == tag.lower(),
                    PieceEventRow.after != "",
                    PieceChangeRow.undone.is_(False),
                )
                .order_by(PieceChangeRow.id)
            )
            found: list[tuple[datetime, float, str]] = []
            for at, document in rows:
                piece = _read(document)
                told = (piece.mass_g, piece.mass_from)
                if not found or found[-1][1:] != told:
                    found.append((at, *told))
            return found[::-1]

    def history(self, tag: str) -> list[Event]:
        """What happened to a piece, last first."""
        with Session(self._engine) as session:
            rows = session.execute(
                select(PieceChangeRow.made_at, PieceChangeRow.words, PieceChangeRow.undone)
                .join(PieceEventRow, PieceEventRow.change_id == PieceChangeRow.id)
                .where(PieceEventRow.key == tag.lower())
                .order_by(PieceChangeRow.id.desc())
            )
            return [Event(*row) for row in rows]


def _known(session: Session, tags: Iterable[str]) -> dict[str, Stored]:
    """The pieces of these tags that there are, by lower-case tag."""
    keys = list({tag.lower() for tag in tags})
    found: dict[str, Stored] = {}
    for at in range(0, len(keys), AT_ONCE):
        rows = session.execute(
            select(PieceRow.key, PieceRow.document).where(PieceRow.key.in_(keys[at : at + AT_ONCE]))
        )
        found |= {key: _read(document) for key, document in rows}
    return found


def _forget(session: Session) -> None:
    """Drop what old changes made of pieces; that they happened, and their words, stay."""
    session.execute(
        update(PieceEventRow)
        .where(PieceEventRow.change_id <= _oldest_kept(session), PieceEventRow.after != "")
        .values(before=None, after="")
    )


def _read(document: str) -> Stored:
    return Stored.model_validate_json(document)


def _row(piece: Stored, document: str) -> dict[str, object]:
    return {
        "tag": piece.tag,
        "key": piece.tag.lower(),
        "kind": piece.kind,
        "retired": piece.retired,
        "searched": piece.searched,
        "document": document,
    }


def _rewrite(session: Session, rows: list[dict[str, object]]) -> None:
    """Write rows over those of the same key."""
    if not rows:
        return
    told = update(PieceRow).where(PieceRow.key == bindparam("was"))
    session.connection().execute(told, [{**row, "was": row["key"]} for row in rows])


def _last(session: Session) -> PieceChangeRow | None:
    return session.scalars(
        select(PieceChangeRow)
        .where(PieceChangeRow.undone.is_(False), PieceChangeRow.id > _oldest_kept(session))
        .order_by(PieceChangeRow.id.desc())
        .limit(1)
    ).first()


def _oldest_kept(session: Session) -> int:
    """The newest change of which only the words are kept."""
    return (session.scalar(select(func.max(PieceChangeRow.id))) or 0) - KEPT_CHANGES
