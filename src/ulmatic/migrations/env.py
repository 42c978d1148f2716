"""How Alembic reaches the database and knows the tables."""

from alembic import context
from sqlalchemy import NullPool, create_engine, text

# Importing them registers their tables.
import ulmatic.accounts.models
import ulmatic.platform.readiness
import ulmatic.records.errands
import ulmatic.records.log
import ulmatic.records.money
import ulmatic.records.schedule
import ulmatic.records.stock
import ulmatic.records.supply
import ulmatic.records.survey
from ulmatic.platform.database import Base

LOCK = 7_420_112

with create_engine(context.config.attributes["url"], poolclass=NullPool).connect() as connection:
    # One process after the other, whoever starts them: held until the connection is closed.
    connection.execute(text("SELECT pg_advisory_lock(:key)"), {"key": LOCK})
    connection.commit()
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        context.run_migrations()
