"""the secret of the calendar's address"""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("household", sa.Column("calendar_secret", sa.Text()))
