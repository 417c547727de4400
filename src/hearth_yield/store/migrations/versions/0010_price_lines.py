"""levels and lines a person draws on a payer's price"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "price_line",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("first_day", sa.Text(), nullable=False),
        sa.Column("first_price", sa.REAL(), nullable=False),
        sa.Column("last_day", sa.Text(), nullable=False),
        sa.Column("last_price", sa.REAL(), nullable=False),
        sa.Column("drawn_on", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_price_line_payer", "price_line", ["exchange", "symbol"])
