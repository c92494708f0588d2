"""Courses and their chains of revisions."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "course",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("head", sa.Integer, nullable=False),
        sa.Column("changed_at", sa.DateTime, nullable=False),
        sa.Column("deleted_at", sa.DateTime, nullable=True),
    )
    op.create_table(
        "revision",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column(
            "course_id", sa.Integer, sa.ForeignKey("course.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("made_at", sa.DateTime, nullable=False),
        sa.Column("change", sa.String, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.UniqueConstraint("course_id", "number"),
    )
    op.create_index("ix_revision_course_id", "revision", ["course_id"])


def downgrade() -> None:
    op.drop_table("revision")
    op.drop_table("course")
