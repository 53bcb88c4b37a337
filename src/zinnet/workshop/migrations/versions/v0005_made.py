"""What was made: numbers, verdict, the job itself to do it again, and a photo."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the table."""
    op.create_table(
        "made",
        sa.Column("number", sa.Integer, primary_key=True, autoincrement=True),
        sa.Column("at", sa.String(32), nullable=False, index=True),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("made", sa.Text, nullable=False),
        sa.Column("job", sa.LargeBinary, nullable=True),
        sa.Column("photo", sa.LargeBinary, nullable=True),
        sqlite_autoincrement=True,
    )


def downgrade() -> None:
    """Take it away."""
    op.drop_table("made")
