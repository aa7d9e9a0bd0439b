"""Where lines run, what else stands on a job's site plan, and where a stake stands on it."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    """Add the columns; nothing on record is drawn."""
    op.add_column("lines", sa.Column("route", sa.JSON(), nullable=False, server_default="[]"))
    op.add_column("jobs", sa.Column("site", sa.JSON(), nullable=False, server_default="{}"))
    op.add_column("setups", sa.Column("stake_at", sa.JSON(), nullable=True))


def downgrade() -> None:
    """Drop them."""
    op.drop_column("setups", "stake_at")
    op.drop_column("jobs", "site")
    op.drop_column("lines", "route")
