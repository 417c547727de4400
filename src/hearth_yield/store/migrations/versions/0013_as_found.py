"""days that are assumed, and how a person's files are read"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("dividend", sa.Column("assumed", sa.Text()))
    op.add_column("statement", sa.Column("assumed", sa.Text()))
    op.create_table(
        "import_profile",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("tables", sa.JSON(), nullable=False),
        sa.Column("kept_on", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("name"),
    )
