"""Evidence of which line it is."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    """Add its table; what is on record has none."""
    op.create_table(
        "identity_evidence",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("setup_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("answer", sa.String(), nullable=False),
        sa.Column("at_m", sa.Double(), nullable=True),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("technician", sa.String(), nullable=False),
        sa.Column("taken_at", sa.String(), nullable=False),
        sa.Column("deleted_at", sa.String(), nullable=True),
        sa.ForeignKeyConstraint(["setup_id"], ["setups.id"], name="fk_identity_evidence_setup_id_setups"),
        sa.PrimaryKeyConstraint("id", name="pk_identity_evidence"),
    )
    op.create_index("ix_identity_evidence_setup_id", "identity_evidence", ["setup_id"])


def downgrade() -> None:
    """Drop it."""
    op.drop_index("ix_identity_evidence_setup_id", "identity_evidence")
    op.drop_table("identity_evidence")
