"""The crew's password, and the devices that signed in with it."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"


def upgrade() -> None:
    """Add the tables; there is no password yet."""
    op.create_table(
        "crew_password",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("set_at", sa.String(), nullable=False),
    )
    op.create_table(
        "devices",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("token_hash", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("signed_in_at", sa.String(), nullable=False),
        sa.Column("ended_at", sa.String(), nullable=True),
    )
    op.create_index("uq_devices_token", "devices", ["token_hash"], unique=True)


def downgrade() -> None:
    """Drop them."""
    op.drop_table("devices")
    op.drop_table("crew_password")
