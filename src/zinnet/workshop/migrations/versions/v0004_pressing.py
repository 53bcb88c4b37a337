"""Recipes from makers' sheets and of the user's own, and what became of what was pressed."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the tables."""
    op.create_table(
        "recipes",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("film", sa.String(200), nullable=False, index=True),
        sa.Column("fabric", sa.String(200), nullable=True),
        sa.Column("heat_source", sa.String(20), nullable=True),
        sa.Column("origin", sa.String(20), nullable=False),
        sa.Column("recipe", sa.Text, nullable=False),
        sqlite_autoincrement=True,
    )
    op.create_table(
        "pressed",
        sa.Column("id", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("at", sa.String(32), nullable=False),
        sa.Column("film", sa.String(200), nullable=False, index=True),
        sa.Column("pressed", sa.Text, nullable=False),
        sqlite_autoincrement=True,
    )


def downgrade() -> None:
    """Take them away."""
    op.drop_table("pressed")
    op.drop_table("recipes")
