"""The store's pieces, what happened to each, and changes that can be taken back."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "piece",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("tag", sa.String, nullable=False),
        sa.Column("key", sa.String, nullable=False, unique=True),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("retired", sa.Boolean, nullable=False),
        sa.Column("searched", sa.Text, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_table(
        "piece_change",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("made_at", sa.DateTime, nullable=False),
        sa.Column("words", sa.String, nullable=False),
        sa.Column("undone", sa.Boolean, nullable=False),
    )
    op.create_table(
        "piece_event",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column(
            "change_id",
            sa.Integer,
            sa.ForeignKey("piece_change.id", ondelete="CASCADE"),
            nullable=False,
        ),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("before", sa.Text, nullable=True),
        sa.Column("after", sa.Text, nullable=False),
    )
    op.create_index("ix_piece_event_key", "piece_event", ["key"])
    op.create_index("ix_piece_event_change_id", "piece_event", ["change_id"])


def downgrade() -> None:
    for table in ("piece_event", "piece_change", "piece"):
        op.drop_table(table)
