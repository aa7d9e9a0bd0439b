"""Moving induction: how far behind the receiver the coil of a hookup is carried."""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"


def upgrade() -> None:
    """Add the column; on record so far every transmitter stands."""
    op.add_column("setups", sa.Column("apart_m", sa.Double(), nullable=True))


def downgrade() -> None:
    """Drop it."""
    op.drop_column("setups", "apart_m")
