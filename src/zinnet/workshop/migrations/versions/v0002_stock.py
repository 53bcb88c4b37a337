"""Film on the shelf, and all that was done with it."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the tables."""
    op.create_table(
        "stock",
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("film", sa.String(200), nullable=False, index=True),
        sa.Column("kind", sa.String(10), nullable=False),
        sa.Column("item", sa.Text, nullable=False),
        sa.Column("gone", sa.Boolean, nullable=False, default=False),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "stock_events",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("number", sa.Integer, sa.ForeignKey("stock.number"), nullable=False, index=True),
        sa.Column("at", sa.String(32), nullable=False),
        sa.Column("what", sa.String(20), nullable=False),
        sa.Column("said", sa.Text, nullable=False),
        sa.Column("before", sa.Text),
        sa.Column("after", sa.Text),
        sa.Column("cut", sa.Integer, index=True),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "cuts",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("at", sa.String(32), nullable=False),
        sa.Column("job", sa.String(200), nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sqlite_autoincrement=True,
    )


def downgrade() -> None:
    """Take them away."""
    op.drop_table("cuts")
    op.drop_table("stock_events")
    op.drop_table("stock")
