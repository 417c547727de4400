"""what a decision keeps for its memo"""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "decision", sa.Column("kept", sa.JSON(), nullable=False, server_default=sa.text("'{}'"))
    )
