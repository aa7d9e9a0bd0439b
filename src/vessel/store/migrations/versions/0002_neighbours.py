"""What runs beside a line, on the line."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    """Add the column; lines on record have none."""
    op.add_column("lines", sa.Column("neighbours", sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    """Drop it."""
    op.drop_column("lines", "neighbours")
