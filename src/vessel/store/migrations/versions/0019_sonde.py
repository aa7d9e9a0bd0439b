"""Sonde runs with their stops, and marks that stand at a stop instead of a station."""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
_NUMBERS = (
    "rod_m",
    "null_before_m",
    "null_after_m",
    "depth_m",
    "signal",
    "lift_height_m",
    "depth_lifted_m",
    "ghost_before",
    "ghost_after",
    "signal_turned",
    "off_m",
)
_STANDING = sa.text("withdrawn_at IS NULL")


def _text(name: str, *, nullable: bool = False) -> sa.Column[str]:
    return sa.Column(name, sa.String(), nullable=nullable)


def upgrade() -> None:
    """Add the tables; every mark so far stands at a station."""
    op.create_table(
        "sonde_runs",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("line_id", sa.Integer(), sa.ForeignKey("lines.id"), nullable=False),
        sa.Column("freq_hz", sa.Double(), nullable=False),
        sa.Column("start_m", sa.Double(), nullable=False),
        _text("way"),
        *(sa.Column(name, sa.Double(), nullable=True) for name in ("check_m", "check_signal", "fall")),
        sa.Column("steps_done", sa.JSON(), nullable=False),
        sa.Column("typed", sa.JSON(), nullable=False),
        _text("technician"),
        _text("created_at"),
    )
    op.create_index("ix_sonde_runs_line_id", "sonde_runs", ["line_id"])
    op.create_table(
        "sonde_stops",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("run_id", sa.Integer(), sa.ForeignKey("sonde_runs.id"), nullable=False),
        sa.Column("distance_m", sa.Double(), nullable=False),
        *(sa.Column(name, sa.Double(), nullable=True) for name in _NUMBERS),
        _text("mode"),
        _text("side"),
        _text("note"),
        sa.Column("typed", sa.JSON(), nullable=False),
        _text("technician"),
        _text("taken_at"),
        *(_text(name, nullable=True) for name in ("deleted_at", "struck_by", "struck_why")),
    )
    op.create_index("ix_sonde_stops_run_id", "sonde_stops", ["run_id"])
    op.create_index(
        "uq_sonde_stops_place",
        "sonde_stops",
        ["run_id", "distance_m"],
        unique=True,
        sqlite_where=sa.text("deleted_at IS NULL"),
    )
    op.drop_index("uq_marks_standing", "marks")
    with op.batch_alter_table("marks") as marks:
        marks.alter_column("station_id", existing_type=sa.Integer(), nullable=True)
        marks.add_column(sa.Column("stop_id", sa.Integer(), nullable=True))
        marks.create_foreign_key("fk_marks_stop_id_sonde_stops", "sonde_stops", ["stop_id"], ["id"])
        marks.create_index("ix_marks_stop_id", ["stop_id"])
    op.create_index("uq_marks_standing", "marks", ["station_id"], unique=True, sqlite_where=_STANDING)
    op.create_index("uq_marks_standing_at_stop", "marks", ["stop_id"], unique=True, sqlite_where=_STANDING)


def downgrade() -> None:
    """Drop them, with the marks that stand at a stop."""
    op.execute("DELETE FROM marks WHERE station_id IS NULL")
    for name in ("uq_marks_standing", "uq_marks_standing_at_stop"):
        op.drop_index(name, "marks")
    with op.batch_alter_table("marks") as marks:
        marks.drop_index("ix_marks_stop_id")
        marks.drop_constraint("fk_marks_stop_id_sonde_stops", type_="foreignkey")
        marks.drop_column("stop_id")
        marks.alter_column("station_id", existing_type=sa.Integer(), nullable=False)
    op.create_index("uq_marks_standing", "marks", ["station_id"], unique=True, sqlite_where=_STANDING)
    op.drop_table("sonde_stops")
    op.drop_table("sonde_runs")
