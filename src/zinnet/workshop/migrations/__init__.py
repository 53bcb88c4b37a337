"""The steps by which an older workshop file becomes a newer one.

Alembic takes them, over SQLAlchemy; all else that is done with the file is plain SQL over the standard library's
``sqlite3``, so that neither is imported where the file is current already.
"""

import re
import sqlite3
from pathlib import Path

FOLDER = Path(__file__).parent
HEAD = max(re.findall(r"v(\d{4})_", " ".join(path.name for path in (FOLDER / "versions").glob("v*.py"))))
"""The step up to which this Zinnet brings a workshop."""


def upgrade(path: Path, busy_s: float) -> None:
    """Take a workshop's file through the steps that it lacks, all of them or none.

    The steps are one transaction, begun by taking the file for writing: a kill at any moment leaves the file as it was,
    and of two programs that find an old file one waits, then finds a new one. Raises :class:`sqlite3.Error` where the
    file can't be used. Alembic keeps its state in one place: one at a time.
    """
    from alembic import command
    from alembic.config import Config
    from sqlalchemy import create_engine, event
    from sqlalchemy.exc import DBAPIError
    from sqlalchemy.pool import NullPool

    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": busy_s}, poolclass=NullPool)
    event.listen(engine, "connect", _leave_transactions_to_us)
    event.listen(engine, "begin", lambda connection: connection.exec_driver_sql("BEGIN IMMEDIATE"))
    config = Config()
    config.set_main_option("script_location", str(FOLDER))
    try:
        with engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
    except DBAPIError as error:
        if error.orig is None:
            raise
        raise error.orig from None


def _leave_transactions_to_us(connection: sqlite3.Connection, _record: object) -> None:
    """Keep the driver from ending a transaction before a table is made, which it does of its own accord."""
    connection.isolation_level = None
