"""What was done before anything was switched on."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    """Add the column; jobs on record have no entries."""
    op.add_column("jobs", sa.Column("before_work", sa.JSON(), nullable=False, server_default="{}"))


def downgrade() -> None:
    """Drop it."""
    op.drop_column("jobs", "before_work")
