"""Garments on the shelf, not pressed yet."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the table."""
    op.create_table(
        "garments",
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("kind", sa.String(60), nullable=False),
        sa.Column("size", sa.String(60), nullable=False),
        sa.Column("colour", sa.String(7), nullable=False),
        sa.Column("item", sa.Text, nullable=False),
        sa.UniqueConstraint("kind", "size", "colour"),
        sqlite_autoincrement=True,
    )


def downgrade() -> None:
    """Take it away."""
    op.drop_table("garments")
