"""Hem tests: what of a film held on a cloth, by a source of heat."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the table."""
    op.create_table(
        "hem_tests",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("fabric", sa.String(100), nullable=False),
        sa.Column("kind", sa.String(100), nullable=False),
        sa.Column("heat_source", sa.String(20), nullable=False),
        sa.Column("test", sa.Text, nullable=False),
        sqlite_autoincrement=True,
    )


def downgrade() -> None:
    """Take it away."""
    op.drop_table("hem_tests")
