"""the import that an account came with"""

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
