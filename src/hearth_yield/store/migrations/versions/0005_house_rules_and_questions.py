"""house rules, the question of a decision, and the names of figures and states"""

import json
from collections.abc import Callable
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

FIGURES = {
    "price": "payer.price",
    "record.growth.5": "record.growth_5",
    "record.growth.10": "record.growth_10",
    "record.raises_in_a_row": "record.raises",
    "record.years_without_reduction": "record.no_reduction",
    "inflation.real_growth.10": "record.real_growth_10",
    "worth_range.now": "range.yield",
    "worth_range.mean": "range.mean_yield",
    "worth_range.deviation": "range.deviation",
    "worth.growth": "worth.growth_used",
    "worth.later_growth": "worth.later_growth_used",
    "worth.required_return": "worth.required_return_used",
    "worth.margin_of_safety": "worth.margin_of_safety_used",
    "worth.models.constant_growth.middle": "worth.constant_growth",
    "worth.models.two_stage.middle": "worth.two_stage",
    "worth.models.fading.middle": "worth.fading",
    "worth.models.yield_reversion.middle": "worth.yield_reversion",
    "worth.blend": "worth.combined",
    "tests.leading_payout.measure": "cover.payout",
    "tests.leading_paid.measure": "cover.payout_paid",
    "tests.leading_cycle.measure": "cover.payout_cycle",
    "tests.leading_trend.measure": "cover.per_share_trend",
    "tests.earnings_payout.measure": "cover.earnings_payout",
    "tests.free_cash_flow_payout.measure": "cover.free_cash_flow_payout",
    "tests.net_income.measure": "cover.net_income",
    "tests.raises.measure": "record.raises",
    "tests.no_reduction.measure": "record.no_reduction",
    "tests.real_growth.measure": "record.real_growth_10",
}
STATES = {"covered": "within", "thin": "close", "uncovered": "over"}
MEASURES = {"blend": "combined", "price_against_blend": "price_against_combined"}


def upgrade() -> None:
    op.create_table(
        "house_rules",
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("made_at", sa.Text(), nullable=False),
        sa.Column("body", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("version", name=op.f("pk_house_rules")),
    )
    with op.batch_alter_table("decision", schema=None) as batch_op:
        batch_op.add_column(
            sa.Column("question", sa.JSON(), nullable=False, server_default=sa.text("'{}'"))
        )
    op.rename_table("adjustment", "edit")
    with op.batch_alter_table("edit", schema=None) as batch_op:
        batch_op.drop_index("ix_adjustment_payer")
        batch_op.create_index("ix_edit_payer", ["exchange", "symbol"], unique=False)
    op.execute(sa.text("DELETE FROM kept_measures"))
    _rewrite("decision", "frozen", lambda held: {FIGURES.get(k, k): f for k, f in held.items()})
    for before, after in STATES.items():
        renamed = sa.text("UPDATE decision SET state = :after WHERE state = :before")
        op.execute(renamed.bindparams(before=before, after=after))
    _rewrite("saved_view", "body", _view)


def _rewrite(table: str, column: str, by: Callable[[Any], Any]) -> None:
    """Every JSON cell of a column, as it reads under the new names."""
    connection = op.get_bind()
    cells = sa.table(table, sa.column("id"), sa.column(column))
    for id, text in connection.execute(sa.select(cells.c.id, cells.c[column])).all():
        after = json.dumps(by(json.loads(text)), ensure_ascii=False)
        connection.execute(sa.update(cells).where(cells.c.id == id).values({column: after}))


def _view(body: Any) -> Any:
    """A saved search or set of columns."""
    if not isinstance(body, dict):
        return body
    if "columns" in body:
        return body | {"columns": [MEASURES.get(c, c) for c in body["columns"]]}
    return body | {"sort": _measure(body.get("sort")), "where": _part(body.get("where"))}


def _measure(id: Any) -> Any:
    return MEASURES.get(id, id) if isinstance(id, str) else id


def _part(part: Any) -> Any:
    if not isinstance(part, dict):
        return part
    if "parts" in part:
        return part | {"parts": [_part(p) for p in part["parts"]]}
    words = part.get("words", [])
    if part.get("id") == "state":
        words = [STATES.get(w, w) for w in words]
    return part | {"id": _measure(part.get("id")), "words": words}
