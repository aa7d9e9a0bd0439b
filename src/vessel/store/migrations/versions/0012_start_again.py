"""Readings of the transmitter that start again, and what the lines beside were seen to carry with them."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"


def upgrade() -> None:
    """Add the columns; what is on record counts from its first reading."""
    op.add_column("transmitter_readings", sa.Column("beside", sa.String(), nullable=False, server_default=""))
    op.add_column("transmitter_readings", sa.Column("anew", sa.Boolean(), nullable=False, server_default="0"))


def downgrade() -> None:
    """Drop them."""
    op.drop_column("transmitter_readings", "anew")
    op.drop_column("transmitter_readings", "beside")
