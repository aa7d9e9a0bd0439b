"""What devices named the entries they sent, so that one sent twice is stored once."""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"


def upgrade() -> None:
    """Add the table."""
    op.create_table(
        "posts",
        sa.Column("key", sa.String(), primary_key=True),
        sa.Column("at", sa.String(), nullable=False),
    )
    op.create_index("ix_posts_at", "posts", ["at"])


def downgrade() -> None:
    """Drop it."""
    op.drop_table("posts")
