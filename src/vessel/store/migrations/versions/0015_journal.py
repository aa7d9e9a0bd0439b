"""The journal of every change, appended and never altered; who struck an entry out, and why."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"

_STRUCK = ("transmitter_readings", "candidates", "identity_evidence", "stations")


def upgrade() -> None:
    """Add journal and columns; what was removed so far has no reason on record."""
    op.create_table(
        "journal",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("at", sa.String(), nullable=False),
        sa.Column("who", sa.String(), nullable=False),
        sa.Column("device", sa.String(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=True),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("entry_id", sa.Integer(), nullable=True),
        sa.Column("what", sa.String(), nullable=False),
        sa.Column("action", sa.String(), nullable=False),
        sa.Column("changes", sa.JSON(), nullable=False),
        sa.Column("why", sa.String(), nullable=False),
    )
    op.create_index("ix_journal_job_id", "journal", ["job_id"])
    for verb in ("UPDATE", "DELETE"):
        op.execute(
            f"CREATE TRIGGER journal_no_{verb.lower()} BEFORE {verb} ON journal "
            "BEGIN SELECT RAISE(ABORT, 'the journal is only appended to'); END"
        )
    for table in _STRUCK:
        op.add_column(table, sa.Column("struck_by", sa.String(), nullable=True))
        op.add_column(table, sa.Column("struck_why", sa.String(), nullable=True))


def downgrade() -> None:
    """Drop them."""
    for table in reversed(_STRUCK):
        op.drop_column(table, "struck_why")
        op.drop_column(table, "struck_by")
    op.drop_table("journal")
