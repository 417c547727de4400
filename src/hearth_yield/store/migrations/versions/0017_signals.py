"""signals, up to where they are made, and which were seen"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "signal",
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("event", sa.Text(), nullable=False),
        sa.Column("day", sa.Text(), nullable=False),
        sa.Column("stage", sa.Text(), nullable=False),
        sa.Column("said", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(
            ["payer_id"], ["payer.id"], name=op.f("fk_signal_payer_id_payer"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("payer_id", "kind", "event", name=op.f("pk_signal")),
    )
    op.create_index("ix_signal_day", "signal", ["day"])
    op.create_table(
        "signal_state",
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("ground", sa.Text(), nullable=False),
        sa.Column("through", sa.Text(), nullable=False),
        sa.Column("since", sa.Text()),
        sa.ForeignKeyConstraint(
            ["payer_id"],
            ["payer.id"],
            name=op.f("fk_signal_state_payer_id_payer"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("payer_id", name=op.f("pk_signal_state")),
    )
    op.create_table(
        "seen_signal",
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("event", sa.Text(), nullable=False),
        sa.Column("seen_at", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("exchange", "symbol", "kind", "event", name=op.f("pk_seen_signal")),
    )
