"""Walks with the frame, what it showed, and marks that stand at a ground fault."""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"


def _text(name: str, *, nullable: bool = False) -> sa.Column[str]:
    return sa.Column(name, sa.String(), nullable=nullable)


def _number(name: str, *, nullable: bool = False) -> sa.Column[float]:
    return sa.Column(name, sa.Double(), nullable=nullable)


def upgrade() -> None:
    """Add the tables, and the place of a mark in them."""
    op.create_table(
        "fault_walks",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("line_id", sa.Integer(), sa.ForeignKey("lines.id"), nullable=False),
        *(_number(name) for name in ("freq_hz", "start_m")),
        *(_number(name, nullable=True) for name in ("volts", "amps")),
        *(_number(name) for name in ("frame_m", "stake_along_m", "stake_away_m")),
        _number("reference", nullable=True),
        sa.Column("steps_done", sa.JSON(), nullable=False),
        sa.Column("typed", sa.JSON(), nullable=False),
        _text("technician"),
        _text("created_at"),
    )
    op.create_index("ix_fault_walks_line_id", "fault_walks", ["line_id"])
    op.create_table(
        "frame_readings",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("walk_id", sa.Integer(), sa.ForeignKey("fault_walks.id"), nullable=False),
        _number("distance_m"),
        _text("arrow"),
        _number("level", nullable=True),
        _text("across"),
        _text("note"),
        sa.Column("typed", sa.JSON(), nullable=False),
        _text("technician"),
        _text("taken_at"),
        *(_text(name, nullable=True) for name in ("deleted_at", "struck_by", "struck_why")),
    )
    op.create_index("ix_frame_readings_walk_id", "frame_readings", ["walk_id"])
    op.execute("ALTER TABLE marks ADD COLUMN walk_id INTEGER REFERENCES fault_walks (id)")
    op.create_index("ix_marks_walk_id", "marks", ["walk_id"])


def downgrade() -> None:
    """Drop them, with the marks that stand at a fault."""
    op.execute("DELETE FROM marks WHERE walk_id IS NOT NULL")
    op.drop_index("ix_marks_walk_id", "marks")
    with op.batch_alter_table("marks") as marks:
        marks.drop_column("walk_id")
    op.drop_table("frame_readings")
    op.drop_table("fault_walks")
