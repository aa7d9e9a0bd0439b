"""The local rule of marking: colours, letters, patterns and the tolerance zone of a job."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    """Add the column; jobs on record follow the table."""
    op.add_column("jobs", sa.Column("marking", sa.JSON(), nullable=False, server_default="{}"))


def downgrade() -> None:
    """Drop it."""
    op.drop_column("jobs", "marking")
