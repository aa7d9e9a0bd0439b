"""Evidence that was found on the trace before the ground was changed for this one."""

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"


def upgrade() -> None:
    """Add it; what was answered so far is of its own trace."""
    op.add_column("identity_evidence", sa.Column("earlier", sa.Boolean(), nullable=False, server_default=sa.false()))


def downgrade() -> None:
    """Drop it."""
    with op.batch_alter_table("identity_evidence") as table:
        table.drop_column("earlier")
