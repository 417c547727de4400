"""a note on each version of the house rules"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("house_rules", schema=None) as batch_op:
        batch_op.add_column(sa.Column("note", sa.Text(), nullable=False, server_default=""))
