"""steps to buy in by, kept on a payer"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "entry_step",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("quantity", sa.Text(), nullable=False),
        sa.Column("target", sa.REAL(), nullable=False),
        sa.Column("amount", sa.BigInteger(), nullable=False),
        sa.Column("kept_on", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_entry_step_payer", "entry_step", ["exchange", "symbol"])
