"""a payer's ISIN, payers of another kind such as funds, and how often a ledger was changed"""

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None

BEFORE = "'partnership', 'financial')"
AFTER = "'partnership', 'financial', 'other')"


def upgrade() -> None:
    op.add_column("payer", sa.Column("isin", sa.Text(), nullable=True))
    op.create_index("ix_payer_isin", "payer", ["isin"])
    op.add_column(
        "product_state", sa.Column("ledger", sa.Integer(), nullable=False, server_default="0")
    )
    # The check alone is widened, as SQLite advises: making the table anew would take the rows of
    # every table that refers to it.
    connection = op.get_bind()
    connection.exec_driver_sql("PRAGMA writable_schema = ON")
    connection.exec_driver_sql(
        "UPDATE sqlite_schema SET sql = replace(sql, ?, ?) WHERE type = 'table' AND name = 'payer'",
        (BEFORE, AFTER),
    )
    connection.exec_driver_sql("PRAGMA writable_schema = RESET")
