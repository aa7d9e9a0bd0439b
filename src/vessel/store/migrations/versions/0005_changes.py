"""What was done to a hookup before a transmitter reading."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    """Add the column; readings on record were taken as hooked up."""
    op.add_column("transmitter_readings", sa.Column("change", sa.String(), nullable=False, server_default=""))


def downgrade() -> None:
    """Drop it."""
    op.drop_column("transmitter_readings", "change")
