"""forecasts and exposures"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "estimate",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("fiscal_year", sa.Integer(), nullable=False),
        sa.Column("measure", sa.Text(), nullable=False),
        sa.Column("published_on", sa.Text(), nullable=False),
        sa.Column("mean", sa.REAL(), nullable=False),
        sa.Column("low", sa.REAL(), nullable=True),
        sa.Column("high", sa.REAL(), nullable=True),
        sa.Column("analysts", sa.Integer(), nullable=True),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint(
            "measure IN ('eps', 'ffo', 'affo', 'dps', 'revenue', 'fcf')",
            name=op.f("ck_estimate_measure"),
        ),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_estimate_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_estimate_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_estimate")),
        sa.UniqueConstraint(
            "payer_id",
            "fiscal_year",
            "measure",
            "published_on",
            name=op.f("uq_estimate_payer_id_fiscal_year_measure_published_on"),
        ),
    )
    with op.batch_alter_table("estimate", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_estimate_source_id"), ["source_id"], unique=False)

    op.create_table(
        "exposure",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("fiscal_year", sa.Integer(), nullable=False),
        sa.Column("basis", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("published_on", sa.Text(), nullable=False),
        sa.Column("share", sa.REAL(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint(
            "basis IN ('segment', 'region', 'tenant')", name=op.f("ck_exposure_basis")
        ),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_exposure_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_exposure_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_exposure")),
        sa.UniqueConstraint(
            "payer_id",
            "fiscal_year",
            "basis",
            "name",
            "published_on",
            name=op.f("uq_exposure_payer_id_fiscal_year_basis_name_published_on"),
        ),
    )
    with op.batch_alter_table("exposure", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_exposure_source_id"), ["source_id"], unique=False)

    op.create_table(
        "guidance",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("payer_id", sa.Integer(), nullable=False),
        sa.Column("fiscal_year", sa.Integer(), nullable=False),
        sa.Column("measure", sa.Text(), nullable=False),
        sa.Column("published_on", sa.Text(), nullable=False),
        sa.Column("low", sa.REAL(), nullable=False),
        sa.Column("high", sa.REAL(), nullable=False),
        sa.Column("source_id", sa.Integer(), nullable=False),
        sa.CheckConstraint(
            "measure IN ('eps', 'ffo', 'affo', 'dps', 'revenue', 'fcf')",
            name=op.f("ck_guidance_measure"),
        ),
        sa.ForeignKeyConstraint(["payer_id"], ["payer.id"], name=op.f("fk_guidance_payer_id")),
        sa.ForeignKeyConstraint(["source_id"], ["source.id"], name=op.f("fk_guidance_source_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_guidance")),
        sa.UniqueConstraint(
            "payer_id",
            "fiscal_year",
            "measure",
            "published_on",
            name=op.f("uq_guidance_payer_id_fiscal_year_measure_published_on"),
        ),
    )
    with op.batch_alter_table("guidance", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_guidance_source_id"), ["source_id"], unique=False)


def downgrade() -> None:
    with op.batch_alter_table("guidance", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_guidance_source_id"))

    op.drop_table("guidance")
    with op.batch_alter_table("exposure", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_exposure_source_id"))

    op.drop_table("exposure")
    with op.batch_alter_table("estimate", schema=None) as batch_op:
        batch_op.drop_index(batch_op.f("ix_estimate_source_id"))

    op.drop_table("estimate")
