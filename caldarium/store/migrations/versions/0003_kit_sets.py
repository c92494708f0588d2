"""The school's own sets of kit."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kit_set",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("key", sa.String, nullable=False, unique=True),
        sa.Column("document", sa.Text, nullable=False),
    )


def downgrade() -> None:
    op.drop_table("kit_set")
