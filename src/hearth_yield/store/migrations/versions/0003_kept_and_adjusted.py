"""kept measures and adjustments"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "adjustment",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("table_name", sa.Text(), nullable=False),
        sa.Column("row_key", sa.JSON(), nullable=False),
        sa.Column("field", sa.Text(), nullable=False),
        sa.Column("original", sa.REAL(), nullable=True),
        sa.Column("value", sa.REAL(), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("made_at", sa.Text(), nullable=False),
        sa.Column("withdrawn_at", sa.Text(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_adjustment")),
    )
    with op.batch_alter_table("adjustment", schema=None) as batch_op:
        batch_op.create_index("ix_adjustment_payer", ["exchange", "symbol"], unique=False)

    op.create_table(
        "saved_view",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("body", sa.JSON(), nullable=False),
        sa.CheckConstraint("kind IN ('search', 'columns')", name=op.f("ck_saved_view_kind")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_saved_view")),
        sa.UniqueConstraint("kind", "name", name=op.f("uq_saved_view_kind_name")),
    )
    op.create_table(
        "source_warning",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.Column("file", sa.Text(), nullable=False),
        sa.Column("line", sa.Integer(), nullable=True),
        sa.Column("column", sa.Text(), nullable=True),
        sa.Column("value", sa.Text(), nullable=True),
        sa.Column("expected", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["source_id"], ["source.id"], name=op.f("fk_source_warning_source_id")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_source_warning")),
    )
    with op.batch_alter_table("source_warning", schema=None) as batch_op:
        batch_op.create_index(
            batch_op.f("ix_source_warning_source_id"), ["source_id"], unique=False
        )

    op.create_table(
        "kept_measures",
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("as_of", sa.Text(), nullable=False),
        sa.Column("facts_revision", sa.Integer(), nullable=False),
        sa.Column("made_with", sa.Text(), nullable=False),
        sa.Column("body", sa.Text(), nullable=False),
        sa.ForeignKeyConstraint(
            ["payer_id"], ["payer.id"], name=op.f("fk_kept_measures_payer_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("payer_id", "as_of", name=op.f("pk_kept_measures")),
    )
    op.create_table(
        "payer_change",
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["payer_id"], ["payer.id"], name=op.f("fk_payer_change_payer_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("payer_id", name=op.f("pk_payer_change")),
    )
    with op.batch_alter_table("household", schema=None) as batch_op:
        batch_op.add_column(
            sa.Column("kept_revision", sa.Integer(), server_default="0", nullable=False)
        )
