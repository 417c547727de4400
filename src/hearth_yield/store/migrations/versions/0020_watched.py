"""notes and groups of payers that are watched"""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "watched",
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("group_name", sa.Text(), nullable=False),
        sa.Column("kept_at", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("exchange", "symbol", name=op.f("pk_watched")),
    )
