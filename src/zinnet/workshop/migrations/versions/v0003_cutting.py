"""Test cuts, blades, and the log of what was done."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the tables."""
    op.create_table(
        "test_cuts",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("at", sa.String(32), nullable=False),
        sa.Column("machine", sa.String(200), nullable=False, index=True),
        sa.Column("film", sa.String(200), nullable=False, index=True),
        sa.Column("test", sa.Text, nullable=False),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "blades",
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("machine", sa.String(200), nullable=False, index=True),
        sa.Column("since", sa.String(32), nullable=False),
        sa.Column("metres", sa.Float, nullable=False, default=0.0),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "log",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("at", sa.String(32), nullable=False),
        sa.Column("job", sa.String(200), nullable=False),
        sa.Column("what", sa.String(40), nullable=False, index=True),
        sa.Column("said", sa.Text, nullable=False),
        sqlite_autoincrement=True,
    )


def downgrade() -> None:
    """Take them away."""
    op.drop_table("log")
    op.drop_table("blades")
    op.drop_table("test_cuts")
