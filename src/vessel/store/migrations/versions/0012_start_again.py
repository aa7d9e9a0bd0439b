"""Readings of the transmitter that start again: those before them no longer count."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    """Add the column; what is on record counts from its first reading."""
    op.add_column("transmitter_readings", sa.Column("anew", sa.Boolean(), nullable=False, server_default="0"))


def downgrade() -> None:
    """Drop it."""
    op.drop_column("transmitter_readings", "anew")
