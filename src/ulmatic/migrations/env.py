"""How Alembic reaches the database and knows the tables."""

from alembic import context
from sqlalchemy import create_engine

import ulmatic.accounts.models
import ulmatic.errands.models
import ulmatic.log.models
import ulmatic.money.models
import ulmatic.platform.readiness
import ulmatic.schedule.models
import ulmatic.stock.models
import ulmatic.supply.models
import ulmatic.survey.models  # noqa: F401 - registers its tables
from ulmatic.platform.database import Base

with create_engine(context.config.attributes["url"]).connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata)
    with context.begin_transaction():
        context.run_migrations()
