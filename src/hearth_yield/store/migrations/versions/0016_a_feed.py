"""which numbers of a feed a source brought"""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("source", sa.Column("feed_after", sa.BigInteger()))
    op.add_column("source", sa.Column("feed_last", sa.BigInteger()))
