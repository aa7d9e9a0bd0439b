"""One station at a place, and one standing mark on a station: held by the database itself."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"

_TWICE = "Stored twice at the same moment."


def upgrade() -> None:
    """Take out what was stored twice, marked stations and earlier entries first, then let nothing be."""
    op.execute(
        """
        UPDATE stations SET deleted_at = strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), note = trim(note || ' {twice}')
        WHERE deleted_at IS NULL AND id IN (
            SELECT id FROM (
                SELECT s.id, row_number() OVER (
                    PARTITION BY s.setup_id, s.distance_m
                    ORDER BY EXISTS(
                        SELECT 1 FROM marks m WHERE m.station_id = s.id AND m.withdrawn_at IS NULL
                    ) DESC, s.id
                ) AS place
                FROM stations s WHERE s.deleted_at IS NULL
            ) WHERE place > 1
        )
        """.replace("{twice}", _TWICE)
    )
    op.execute(
        """
        UPDATE marks SET withdrawn_at = strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), withdrawn_by = technician,
            withdrawn_reason = '{twice}'
        WHERE withdrawn_at IS NULL AND id NOT IN (
            SELECT min(id) FROM marks WHERE withdrawn_at IS NULL GROUP BY station_id
        )
        """.replace("{twice}", _TWICE)
    )
    op.create_index(
        "uq_stations_place",
        "stations",
        ["setup_id", "distance_m"],
        unique=True,
        sqlite_where=sa.text("deleted_at IS NULL"),
    )
    op.create_index(
        "uq_marks_standing", "marks", ["station_id"], unique=True, sqlite_where=sa.text("withdrawn_at IS NULL")
    )


def downgrade() -> None:
    """Drop the indexes."""
    op.drop_index("uq_marks_standing", "marks")
    op.drop_index("uq_stations_place", "stations")
