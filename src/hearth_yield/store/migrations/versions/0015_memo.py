"""what a decision says beside its verdict, and what is expected"""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name in ("pros", "cons", "risks"):
        op.add_column("decision", sa.Column(name, sa.Text(), nullable=False, server_default=""))
    op.add_column("decision", sa.Column("trim_above", sa.BigInteger()))
    op.add_column("decision", sa.Column("next_look", sa.Text()))
    op.add_column(
        "decision",
        sa.Column("expectations", sa.JSON(), nullable=False, server_default=sa.text("'[]'")),
    )
    op.add_column(
        "decision", sa.Column("looked_back", sa.Text(), nullable=False, server_default="")
    )
