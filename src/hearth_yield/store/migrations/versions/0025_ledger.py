"""the household's ledger: accounts, what is entered in them, and what entries said before"""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None

MONEY = ("fee", "tax", "withheld", "returned")
TERMS = ("new", "old", "cash", "moves")
KINDS = (
    "'conversion', 'opening', 'buy', 'reinvestment', 'return_of_capital', 'sell', 'transfer', "
    "'dividend', 'deposit', 'withdrawal', 'exchange', 'interest', 'fee', 'tax', 'stated'"
)


def upgrade() -> None:
    op.create_table(
        "account",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("currency", sa.Text(), nullable=False),
        sa.Column("sheltered", sa.Boolean(), nullable=False),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("keeps_cash", sa.Boolean(), nullable=False),
        sa.Column("entered_from", sa.Text(), nullable=True),
        sa.Column("closed_on", sa.Text(), nullable=True),
        sa.Column("made_at", sa.Text(), nullable=False),
        sa.Column("deleted_at", sa.Text(), nullable=True),
        sa.CheckConstraint("method IN ('fifo', 'average')", name="ck_account_method"),
    )
    op.create_table(
        "entry",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("account_id", sa.Integer(),
                  sa.ForeignKey("account.id", name="fk_entry_account_id"), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("day", sa.Text(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=True),
        sa.Column("symbol", sa.Text(), nullable=True),
        sa.Column("shares", sa.BigInteger(), nullable=True),
        sa.Column("price", sa.Text(), nullable=True),
        sa.Column("amount", sa.BigInteger(), nullable=True),
        sa.Column("currency", sa.Text(), nullable=False),
        *(sa.Column(n, sa.BigInteger(), nullable=False, server_default="0") for n in MONEY),
        sa.Column("spent", sa.BigInteger(), nullable=True),
        sa.Column("settled", sa.BigInteger(), nullable=True),
        sa.Column("bought", sa.Text(), nullable=True),
        sa.Column("chosen", sa.JSON(), nullable=False, server_default=sa.text("'[]'")),
        sa.Column("to_id", sa.Integer(), sa.ForeignKey("account.id", name="fk_entry_to_id"),
                  nullable=True),
        sa.Column("into_exchange", sa.Text(), nullable=True),
        sa.Column("into_symbol", sa.Text(), nullable=True),
        *(sa.Column(n, sa.Text(), nullable=True) for n in TERMS),
        sa.Column("into_amount", sa.BigInteger(), nullable=True),
        sa.Column("into_currency", sa.Text(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False, server_default=""),
        sa.Column("reference", sa.Text(), nullable=True),
        sa.Column("source_id", sa.Integer(), sa.ForeignKey("source.id", name="fk_entry_source_id"),
                  nullable=True),
        sa.Column("made_at", sa.Text(), nullable=False),
        sa.Column("deleted_at", sa.Text(), nullable=True),
        sa.Column("intention", sa.Text(), nullable=True),
        sa.UniqueConstraint("intention", name="uq_entry_intention"),
        sa.CheckConstraint(f"kind IN ({KINDS})", name="ck_entry_kind"),
    )  # fmt: skip
    op.create_index("ix_entry_day", "entry", ["day"])
    op.create_index("ix_entry_account_id", "entry", ["account_id"])
    op.create_index("ix_entry_payer", "entry", ["exchange", "symbol"])
    op.create_index("ix_entry_source_id", "entry", ["source_id"])
    op.create_table(
        "former_entry",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("entry_id", sa.Integer(),
                  sa.ForeignKey("entry.id", name="fk_former_entry_entry_id", ondelete="CASCADE"),
                  nullable=False),
        sa.Column("said", sa.JSON(), nullable=False),
        sa.Column("until", sa.Text(), nullable=False),
    )  # fmt: skip
    op.create_index("ix_former_entry_entry_id", "former_entry", ["entry_id"])
