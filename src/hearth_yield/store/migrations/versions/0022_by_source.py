"""prices and points are found by their source, dividends by their days; a column that the first
databases lack"""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index("ix_price_source_id", "price", ["source_id"])
    op.create_index("ix_series_point_source_id", "series_point", ["source_id"])
    op.create_index("ix_dividend_ex_date", "dividend", ["ex_date"])
    op.create_index("ix_dividend_pay_date", "dividend", ["pay_date"])
    held = {c["name"] for c in sa.inspect(op.get_bind()).get_columns("series")}
    if "of_currency" not in held:  # the first schema was given it after it had been used
        op.add_column("series", sa.Column("of_currency", sa.Text()))
