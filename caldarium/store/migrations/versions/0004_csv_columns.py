"""What people call the columns of their own spreadsheets."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "csv_column",
        sa.Column("header", sa.String, primary_key=True),
        sa.Column("column", sa.String, nullable=False),
    )


def downgrade() -> None:
    op.drop_table("csv_column")
