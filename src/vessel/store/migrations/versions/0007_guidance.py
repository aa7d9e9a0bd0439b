"""Which way the current ran at a station, and whether guidance was lost there."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    """Add the columns; stations on record have neither."""
    op.add_column("stations", sa.Column("direction", sa.String(), nullable=False, server_default=""))
    op.add_column("stations", sa.Column("lost", sa.Boolean(), nullable=False, server_default="0"))


def downgrade() -> None:
    """Drop them."""
    op.drop_column("stations", "lost")
    op.drop_column("stations", "direction")
