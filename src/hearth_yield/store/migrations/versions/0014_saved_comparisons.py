"""comparisons that a person named"""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.rename_table("saved_view", "saved_view_before")
    op.create_table(
        "saved_view",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("body", sa.JSON(), nullable=False),
        sa.CheckConstraint(
            "kind IN ('search', 'columns', 'comparison')", name=op.f("ck_saved_view_kind")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_saved_view")),
        sa.UniqueConstraint("kind", "name", name=op.f("uq_saved_view_kind_name")),
    )
    op.execute("INSERT INTO saved_view SELECT id, kind, name, body FROM saved_view_before")
    op.drop_table("saved_view_before")
