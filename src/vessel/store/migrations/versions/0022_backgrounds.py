"""Scanned plans and photos under the site plan."""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"


def upgrade() -> None:
    """Add the table."""
    op.create_table(
        "backgrounds",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("jobs.id"), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("media", sa.String(), nullable=False),
        sa.Column("width_px", sa.Integer(), nullable=False),
        sa.Column("height_px", sa.Integer(), nullable=False),
        sa.Column("image", sa.LargeBinary(), nullable=False),
        sa.Column("pins", sa.JSON(), nullable=False),
        sa.Column("fade", sa.String(), nullable=False),
        sa.Column("typed", sa.JSON(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("technician", sa.String(), nullable=False),
        sa.Column("taken_at", sa.String(), nullable=False),
        sa.Column("deleted_at", sa.String(), nullable=True),
        sa.Column("struck_by", sa.String(), nullable=True),
        sa.Column("struck_why", sa.String(), nullable=True),
    )
    op.create_index("ix_backgrounds_job_id", "backgrounds", ["job_id"])


def downgrade() -> None:
    """Drop it."""
    op.drop_table("backgrounds")
