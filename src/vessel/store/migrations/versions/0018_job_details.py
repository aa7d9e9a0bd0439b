"""Where a job is, under which notice, for whom, and whom to call."""

import sqlalchemy as sa
from alembic import op

revision = "0018"
down_revision = "0017"
COLUMNS = ("address", "notice", "client", "contact")


def upgrade() -> None:
    """Add the columns, empty on jobs so far."""
    for name in COLUMNS:
        op.add_column("jobs", sa.Column(name, sa.String(), nullable=False, server_default=""))


def downgrade() -> None:
    """Drop them."""
    for name in reversed(COLUMNS):
        op.drop_column("jobs", name)
