"""Table of own materials."""

from typing import Any

from sqlalchemy import ForeignKeyConstraint
from sqlalchemy.orm import Mapped, mapped_column

from ulmatic.platform.database import Base, Stamped, WorkspaceRow


class MaterialRow(WorkspaceRow, Stamped, Base):
    """A material of the workspace's own: `material` as computed, `entry` as it was asked for."""

    __tablename__ = "materials"
    named_later = True
    noun = "material"
    name: Mapped[str]
    material: Mapped[dict[str, Any]]
    entry: Mapped[dict[str, Any]] = mapped_column(default=dict)
    __table_args__ = (ForeignKeyConstraint(["workspace_id"], ["workspaces.id"], ondelete="CASCADE"),)
