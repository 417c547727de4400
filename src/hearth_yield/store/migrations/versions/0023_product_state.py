"""the product's own row is no household: that word is for what a person owns"""

from alembic import op

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.rename_table("household", "product_state")
