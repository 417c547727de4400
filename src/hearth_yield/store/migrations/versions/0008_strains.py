"""strains and disagreements, kept on a payer and with a decision; base years as a list"""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "kept_strain",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("question", sa.JSON(), nullable=False),
        sa.Column("kept_at", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("exchange", "symbol", "name"),
    )
    with op.batch_alter_table("decision", schema=None) as batch_op:
        batch_op.add_column(
            sa.Column("strains", sa.JSON(), nullable=False, server_default=sa.text("'[]'"))
        )
        batch_op.add_column(
            sa.Column("disagreements", sa.JSON(), nullable=False, server_default=sa.text("'{}'"))
        )
    op.create_table(
        "disagreement",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("exchange", sa.Text(), nullable=False),
        sa.Column("symbol", sa.Text(), nullable=False),
        sa.Column("stage", sa.Text(), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("made_at", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("exchange", "symbol", "stage"),
    )
    op.execute(
        sa.text(
            "UPDATE decision SET question = json_remove(json_set(question, '$.base_years', "
            "json_extract(question, '$.base_year')), '$.base_year') "
            "WHERE json_extract(question, '$.base_year') IS NOT NULL"
        )
    )
