"""SQLAlchemy models, sessions and Alembic migrations: everything kept in SQLite."""
