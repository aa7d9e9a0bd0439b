"""Currents read on the conductors at an access point."""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"


def upgrade() -> None:
    """Add them; of what was answered so far none is known."""
    for name in ("own_a", "other_a"):
        op.add_column("identity_evidence", sa.Column(name, sa.Double(), nullable=True))


def downgrade() -> None:
    """Drop them."""
    with op.batch_alter_table("identity_evidence") as batch:
        for name in ("own_a", "other_a"):
            batch.drop_column(name)
