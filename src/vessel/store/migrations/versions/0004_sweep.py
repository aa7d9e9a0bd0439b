"""The first sweep: centre lines logged on a circle round the hookup."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    """Create the table; nothing on record was swept."""
    op.create_table(
        "candidates",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("setup_id", sa.Integer(), nullable=False),
        sa.Column("bearing_deg", sa.Double(), nullable=False),
        *(
            sa.Column(name, sa.Double(), nullable=True)
            for name in ("current_a", "depth_m", "signal", "signal_lifted", "lift_m")
        ),
        sa.Column("direction", sa.Integer(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("typed", sa.JSON(), nullable=False),
        sa.Column("technician", sa.String(), nullable=False),
        sa.Column("taken_at", sa.String(), nullable=False),
        sa.Column("deleted_at", sa.String(), nullable=True),
        sa.ForeignKeyConstraint(["setup_id"], ["setups.id"], name="fk_candidates_setup_id_setups"),
        sa.PrimaryKeyConstraint("id", name="pk_candidates"),
    )
    op.create_index("ix_candidates_setup_id", "candidates", ["setup_id"])


def downgrade() -> None:
    """Drop it."""
    op.drop_table("candidates")
