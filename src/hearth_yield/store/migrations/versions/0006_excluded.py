"""excluded facts and fiscal years under the word the page has for them"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute(sa.text("UPDATE edit SET field = 'excluded' WHERE field = 'left_out'"))
    op.execute(
        sa.text(
            "UPDATE edit SET field = 'excluded:' || substr(field, length('set_aside:') + 1) "
            "WHERE field LIKE 'set\\_aside:%' ESCAPE '\\'"
        )
    )
