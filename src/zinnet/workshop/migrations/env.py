"""How alembic reaches the workshop: by the connection that the store hands over."""

from alembic import context

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=None, transactional_ddl=True, render_as_batch=True)
with context.begin_transaction():
    context.run_migrations()
