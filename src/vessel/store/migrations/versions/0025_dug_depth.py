"""How deep a line lies where it was dug up by hand."""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"


def upgrade() -> None:
    """Add it; of what was dug up so far it was not measured."""
    op.add_column("identity_evidence", sa.Column("depth_m", sa.Double(), nullable=True))


def downgrade() -> None:
    """Drop it."""
    with op.batch_alter_table("identity_evidence") as table:
        table.drop_column("depth_m")
