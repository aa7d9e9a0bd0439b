"""How far behind the receiver the coil of a hookup is carried, and what stands on a line."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"


def upgrade() -> None:
    """Add the columns; on record so far every transmitter stands and nothing is on a line but its ends."""
    op.add_column("setups", sa.Column("apart_m", sa.Double(), nullable=True))
    op.add_column("lines", sa.Column("points", sa.JSON(), nullable=False, server_default="[]"))


def downgrade() -> None:
    """Drop them."""
    op.drop_column("lines", "points")
    op.drop_column("setups", "apart_m")
