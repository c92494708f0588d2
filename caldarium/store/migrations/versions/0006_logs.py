"""What happened on courses: thermometers and the diary."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def _of_course() -> sa.Column:
    return sa.Column(
        "course_id",
        sa.Integer,
        sa.ForeignKey("course.id", ondelete="CASCADE"),
        nullable=False,
        index=True,
    )


def upgrade() -> None:
    op.create_table(
        "log_entry",
        sa.Column("id", sa.Integer, primary_key=True),
        _of_course(),
        sa.Column("token", sa.String, nullable=False),
        sa.Column("received_at", sa.DateTime, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.UniqueConstraint("course_id", "token"),
    )
    op.create_table(
        "thermometer",
        sa.Column("id", sa.Integer, primary_key=True),
        _of_course(),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
        sa.UniqueConstraint("course_id", "key"),
    )


def downgrade() -> None:
    op.drop_table("thermometer")
    op.drop_table("log_entry")
