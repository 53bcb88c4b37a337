"""Blanks that were measured and kept."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the table."""
    op.create_table(
        "blanks",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(200), nullable=False, unique=True),
        sa.Column("spec", sa.Text, nullable=False),
        sa.Column("kept_at", sa.String(32), nullable=False),
    )


def downgrade() -> None:
    """Take it away."""
    op.drop_table("blanks")
