"""Signal with the gain locked, neighbours one by one, how a station was placed, and paint beside the line."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    """Add the columns; what is on record has none of it."""
    op.add_column("stations", sa.Column("signal", sa.Double(), nullable=True))
    op.add_column("stations", sa.Column("neighbours", sa.JSON(), nullable=False, server_default="[]"))
    op.add_column("stations", sa.Column("place", sa.JSON(), nullable=True))
    op.add_column("marks", sa.Column("painted_off_m", sa.Double(), nullable=True))


def downgrade() -> None:
    """Drop them."""
    op.drop_column("marks", "painted_off_m")
    for name in ("place", "neighbours", "signal"):
        op.drop_column("stations", name)
