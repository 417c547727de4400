"""what looking back read of each payer, kept until its facts change"""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kept_past",
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("as_of", sa.Text(), nullable=False),
        sa.Column("facts_revision", sa.Integer(), nullable=False),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("body", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["payer_id"], ["payer.id"], name=op.f("fk_kept_past_payer_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("payer_id", "as_of", name=op.f("pk_kept_past")),
    )
