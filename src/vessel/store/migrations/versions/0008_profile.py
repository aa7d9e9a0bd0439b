"""Readings across the line at a station."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    """Add the column; stations on record have no profile."""
    op.add_column("stations", sa.Column("profile", sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    """Drop it."""
    op.drop_column("stations", "profile")
