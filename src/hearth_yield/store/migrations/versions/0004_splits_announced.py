"""when a split was announced"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("split", schema=None) as batch_op:
        batch_op.add_column(sa.Column("announced_on", sa.Text(), nullable=True))
    with op.batch_alter_table("decision", schema=None) as batch_op:
        batch_op.add_column(sa.Column("intention", sa.Text(), nullable=True))
        batch_op.create_unique_constraint(op.f("uq_decision_intention"), ["intention"])
