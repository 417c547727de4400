"""a crossed limit is outside it, not over it: limits may be minimums"""

import json

import sqlalchemy as sa
from alembic import op

from hearth_yield.core.judging.judge import OLD_STATES
from hearth_yield.store.renamed import states_renamed

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None

KEPT = {"decision": ("strains", "kept"), "saved_view": ("body",)}


def upgrade() -> None:
    connection = op.get_bind()
    for before, now in OLD_STATES.items():
        connection.execute(
            sa.text("UPDATE decision SET state = :now WHERE state = :before"),
            {"now": now, "before": before},
        )
    for table, columns in KEPT.items():
        for column in columns:
            held = connection.execute(sa.text(f"SELECT id, {column} FROM {table}")).all()  # noqa: S608 - names from here
            for id, text in held:
                now = json.dumps(states_renamed(json.loads(text)), ensure_ascii=False)
                connection.execute(
                    sa.text(f"UPDATE {table} SET {column} = :now WHERE id = :id"),  # noqa: S608 - names from here
                    {"now": now, "id": id},
                )
