"""the import that an account came with, and the currency of sums"""

from alembic import op

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute(
        "ALTER TABLE account ADD COLUMN source_id INTEGER "
        "CONSTRAINT fk_account_source_id REFERENCES source (id)"
    )
    op.execute("ALTER TABLE product_state ADD COLUMN home TEXT")
