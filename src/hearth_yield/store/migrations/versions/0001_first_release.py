"""first release"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "decision",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("as_of", sa.Text(), nullable=False),
        sa.Column("recorded_at", sa.Text(), nullable=False),
        sa.Column("verdict", sa.Text(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("buy_below", sa.BigInteger(), nullable=True),
        sa.Column("currency", sa.Text(), nullable=False),
        sa.Column("state", sa.Text(), nullable=True),
        sa.Column("first_to_give", sa.Text(), nullable=True),
        sa.Column("frozen", sa.JSON(), nullable=False),
        sa.Column("withdrawn", sa.Boolean(), nullable=False),
        sa.CheckConstraint(
            "verdict IN ('buy', 'hold', 'wait', 'trim', 'avoid')", name=op.f("ck_decision_verdict")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_decision")),
    )
    with op.batch_alter_table("decision", schema=None) as batch_op:
        batch_op.create_index("ix_decision_payer", ["exchange", "symbol", "as_of"], unique=False)

    op.create_table(
        "household",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("pinned_today", sa.Text(), nullable=True),
        sa.CheckConstraint("id = 1", name=op.f("ck_household_one_row")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_household")),
    )
    op.create_table(
        "source",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("file_name", sa.Text(), nullable=False),
        sa.Column("sha256", sa.Text(), nullable=True),
        sa.Column("added_at", sa.Text(), nullable=False),
        sa.Column("rows_added", sa.Integer(), nullable=False),
        sa.Column("rows_changed", sa.Integer(), nullable=False),
        sa.Column("undone_at", sa.Text(), nullable=True),
        sa.CheckConstraint(
            "kind IN ('import', 'feed', 'manual', 'demo')", name=op.f("ck_source_kind")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_source")),
    )
    op.create_table(
        "payer",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("country", sa.Text(), nullable=False),
        sa.Column("currency", sa.Text(), nullable=False),
        sa.Column("fiscal_year_end_month", sa.Integer(), nullable=False),
        sa.Column("rhythm", sa.Integer(), nullable=True),
        sa.Column("evenness", sa.Text(), nullable=True),
        sa.Column("description", sa.Text(), nullable=False),
        sa.Column("listed_on", sa.Text(), nullable=True),
        sa.Column("delisted_on", sa.Text(), nullable=True),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint(
            "kind IN ('company', 'property_trust', 'partnership', 'financial')",
            name=op.f("ck_payer_kind"),
        ),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_payer_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_payer")),
        sa.UniqueConstraint("exchange", "symbol", name=op.f("uq_payer_exchange_symbol")),
    )
    with op.batch_alter_table("payer", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_payer_source_id"), ["source_id"], unique=False)

    op.create_table(
        "series",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("code", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("currency", sa.Text(), nullable=False),
        sa.Column("of_currency", sa.Text(), nullable=True),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint(
            "kind IN ('price_index', 'risk_free_yield', 'aaa_yield', 'market_index', "
            "'market_total_return', 'exchange_rate')",
            name=op.f("ck_series_kind"),
        ),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_series_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_series")),
        sa.UniqueConstraint("code", name=op.f("uq_series_code")),
    )
    with op.batch_alter_table("series", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_series_source_id"), ["source_id"], unique=False)

    op.create_table(
        "slump",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("begins", sa.Text(), nullable=False),
        sa.Column("ends", sa.Text(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_slump_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_slump")),
        sa.UniqueConstraint("name", name=op.f("uq_slump_name")),
    )
    with op.batch_alter_table("slump", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_slump_source_id"), ["source_id"], unique=False)

    op.create_table(
        "source_change",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.Column("table_name", sa.Text(), nullable=False),
        sa.Column("row_key", sa.JSON(), nullable=False),
        sa.Column("before", sa.JSON(), nullable=False),
        sa.Column("before_source_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["before_source_id"], ["source.id"], name=op.f("fk_source_change_before_source_id")
        ),
        sa.ForeignKeyConstraint(
            ["source_id"], ["source.id"], name=op.f("fk_source_change_source_id")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_source_change")),
    )
    with op.batch_alter_table("source_change", schema=None) as batch_op:
        batch_op.create_index(
            batch_op.f("ix_source_change_before_source_id"), ["before_source_id"], unique=False
        )
        batch_op.create_index(batch_op.f("ix_source_change_source_id"), ["source_id"], unique=False)

    op.create_table(
        "dividend",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("ex_date", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("declared_on", sa.Text(), nullable=True),
        sa.Column("pay_date", sa.Text(), nullable=True),
        sa.Column("amount", sa.REAL(), nullable=False),
        sa.Column("currency", sa.Text(), nullable=False),
        sa.Column("payments_per_year", sa.Integer(), nullable=True),
        sa.Column("credited_fraction", sa.REAL(), nullable=True),
        sa.Column("credit_tax_rate", sa.REAL(), nullable=True),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint(
            "kind IN ('regular', 'special', 'return_of_capital')", name=op.f("ck_dividend_kind")
        ),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_dividend_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_dividend_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_dividend")),
        sa.UniqueConstraint(
            "payer_id", "ex_date", "kind", name=op.f("uq_dividend_payer_id_ex_date_kind")
        ),
    )
    with op.batch_alter_table("dividend", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_dividend_source_id"), ["source_id"], unique=False)

    op.create_table(
        "dividend_notice",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("declared_on", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint(
            "kind IN ('omitted', 'suspended', 'resumed')", name=op.f("ck_dividend_notice_kind")
        ),
        sa.ForeignKeyConstraint(
            ["payer_id"], ["payer.id"], name=op.f("fk_dividend_notice_payer_id")
        ),
        sa.ForeignKeyConstraint(
            ["source_id"], ["source.id"], name=op.f("fk_dividend_notice_source_id")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_dividend_notice")),
        sa.UniqueConstraint(
            "payer_id", "declared_on", name=op.f("uq_dividend_notice_payer_id_declared_on")
        ),
    )
    with op.batch_alter_table("dividend_notice", schema=None) as batch_op:
        batch_op.create_index(
            batch_op.f("ix_dividend_notice_source_id"), ["source_id"], unique=False
        )

    op.create_table(
        "payer_note",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("field", sa.Text(), nullable=False),
        sa.Column("published_on", sa.Text(), nullable=False),
        sa.Column("value", sa.Text(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_payer_note_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_payer_note_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_payer_note")),
        sa.UniqueConstraint(
            "payer_id",
            "field",
            "published_on",
            name=op.f("uq_payer_note_payer_id_field_published_on"),
        ),
    )
    with op.batch_alter_table("payer_note", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_payer_note_source_id"), ["source_id"], unique=False)

    op.create_table(
        "price",
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("day", sa.Text(), nullable=False),
        sa.Column("close", sa.REAL(), nullable=False),
        sa.Column("volume", sa.REAL(), nullable=True),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_price_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_price_source_id")),
        sa.PrimaryKeyConstraint("payer_id", "day", name=op.f("pk_price")),
        sqlite_strict=True,
        sqlite_with_rowid=False,
    )
    op.create_table(
        "series_point",
        sa.Column("series_id", sa.Integer(), nullable=False),
        sa.Column("day", sa.Text(), nullable=False),
        sa.Column("published_on", sa.Text(), nullable=False),
        sa.Column("value", sa.REAL(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["series_id"], ["series.id"], name=op.f("fk_series_point_series_id")
        ),
        sa.ForeignKeyConstraint(
            ["source_id"], ["source.id"], name=op.f("fk_series_point_source_id")
        ),
        sa.PrimaryKeyConstraint("series_id", "day", "published_on", name=op.f("pk_series_point")),
        sqlite_strict=True,
        sqlite_with_rowid=False,
    )
    op.create_table(
        "split",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("effective_on", sa.Text(), nullable=False),
        sa.Column("new_shares", sa.REAL(), nullable=False),
        sa.Column("old_shares", sa.REAL(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_split_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_split_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_split")),
        sa.UniqueConstraint(
            "payer_id", "effective_on", name=op.f("uq_split_payer_id_effective_on")
        ),
    )
    with op.batch_alter_table("split", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_split_source_id"), ["source_id"], unique=False)

    op.create_table(
        "statement",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("period_end", sa.Text(), nullable=False),
        sa.Column("span", sa.Text(), nullable=False),
        sa.Column("published_on", sa.Text(), nullable=False),
        sa.Column("currency", sa.Text(), nullable=False),
        sa.Column("revenue", sa.REAL(), nullable=True),
        sa.Column("cost_of_revenue", sa.REAL(), nullable=True),
        sa.Column("operating_expenses", sa.REAL(), nullable=True),
        sa.Column("ebit", sa.REAL(), nullable=True),
        sa.Column("depreciation_amortization", sa.REAL(), nullable=True),
        sa.Column("ebitda", sa.REAL(), nullable=True),
        sa.Column("interest_expense", sa.REAL(), nullable=True),
        sa.Column("tax", sa.REAL(), nullable=True),
        sa.Column("net_income", sa.REAL(), nullable=True),
        sa.Column("diluted_eps", sa.REAL(), nullable=True),
        sa.Column("diluted_shares", sa.REAL(), nullable=True),
        sa.Column("impairments", sa.REAL(), nullable=True),
        sa.Column("gains_on_property_sales", sa.REAL(), nullable=True),
        sa.Column("property_depreciation", sa.REAL(), nullable=True),
        sa.Column("straight_line_rent", sa.REAL(), nullable=True),
        sa.Column("ffo", sa.REAL(), nullable=True),
        sa.Column("affo", sa.REAL(), nullable=True),
        sa.Column("net_operating_income", sa.REAL(), nullable=True),
        sa.Column("distributable_cash_flow", sa.REAL(), nullable=True),
        sa.Column("operating_cash_flow", sa.REAL(), nullable=True),
        sa.Column("capital_expenditure", sa.REAL(), nullable=True),
        sa.Column("maintenance_capex", sa.REAL(), nullable=True),
        sa.Column("recurring_capex", sa.REAL(), nullable=True),
        sa.Column("dividends_paid", sa.REAL(), nullable=True),
        sa.Column("preferred_dividends", sa.REAL(), nullable=True),
        sa.Column("buybacks", sa.REAL(), nullable=True),
        sa.Column("share_issuance", sa.REAL(), nullable=True),
        sa.Column("stock_based_compensation", sa.REAL(), nullable=True),
        sa.Column("cash", sa.REAL(), nullable=True),
        sa.Column("short_term_debt", sa.REAL(), nullable=True),
        sa.Column("long_term_debt", sa.REAL(), nullable=True),
        sa.Column("floating_rate_debt", sa.REAL(), nullable=True),
        sa.Column("preferred_equity", sa.REAL(), nullable=True),
        sa.Column("current_assets", sa.REAL(), nullable=True),
        sa.Column("current_liabilities", sa.REAL(), nullable=True),
        sa.Column("total_assets", sa.REAL(), nullable=True),
        sa.Column("total_liabilities", sa.REAL(), nullable=True),
        sa.Column("equity", sa.REAL(), nullable=True),
        sa.Column("minority_interest", sa.REAL(), nullable=True),
        sa.Column("shares_outstanding", sa.REAL(), nullable=True),
        sa.Column("occupancy", sa.REAL(), nullable=True),
        sa.Column("capital_ratio", sa.REAL(), nullable=True),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint("span IN ('year', 'half', 'quarter')", name=op.f("ck_statement_span")),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_statement_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_statement_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_statement")),
        sa.UniqueConstraint(
            "payer_id",
            "period_end",
            "span",
            "published_on",
            name=op.f("uq_statement_payer_id_period_end_span_published_on"),
        ),
    )
    with op.batch_alter_table("statement", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_statement_source_id"), ["source_id"], unique=False)


def downgrade() -> None:
    with op.batch_alter_table("statement", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_statement_source_id"))

    op.drop_table("statement")
    with op.batch_alter_table("split", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_split_source_id"))

    op.drop_table("split")
    op.drop_table("series_point")
    op.drop_table("price")
    with op.batch_alter_table("payer_note", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_payer_note_source_id"))

    op.drop_table("payer_note")
    with op.batch_alter_table("dividend_notice", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_dividend_notice_source_id"))

    op.drop_table("dividend_notice")
    with op.batch_alter_table("dividend", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_dividend_source_id"))

    op.drop_table("dividend")
    with op.batch_alter_table("source_change", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_source_change_source_id"))
        batch_op.drop_index(batch_op.f("ix_source_change_before_source_id"))

    op.drop_table("source_change")
    with op.batch_alter_table("slump", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_slump_source_id"))

    op.drop_table("slump")
    with op.batch_alter_table("series", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_series_source_id"))

    op.drop_table("series")
    with op.batch_alter_table("payer", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_payer_source_id"))

    op.drop_table("payer")
    op.drop_table("source")
    op.drop_table("household")
    with op.batch_alter_table("decision", schema=None) as batch_op:
        batch_op.drop_index("ix_decision_payer")

    op.drop_table("decision")
