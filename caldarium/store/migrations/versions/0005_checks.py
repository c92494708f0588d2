"""The school's own lists of gear, and what is told at checks."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "gear_list",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("key", sa.String, nullable=False, unique=True),
        sa.Column("document", sa.Text, nullable=False),
    )
    op.create_table(
        "check_event",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column(
            "course_id",
            sa.Integer,
            sa.ForeignKey("course.id", ondelete="CASCADE"),
            nullable=False,
            index=True,
        ),
        sa.Column("token", sa.String, nullable=False, unique=True),
        sa.Column("received_at", sa.DateTime, nullable=False),
        sa.Column("document", sa.Text, nullable=False),
    )


def downgrade() -> None:
    op.drop_table("check_event")
    op.drop_table("gear_list")
