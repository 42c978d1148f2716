"""What every kind of entry says of itself, and the register of the kinds."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import ConfigDict, Field

from ulmatic.core.units import FieldType
from ulmatic.core.value import Value

LoggedAs = Literal["laying", "moving", "preparing", "weeding", "strimming", "mowing", "watering", "other"]
"""What person-hours are logged as."""
Subject = Literal["plot", "tree", "pile", "anything"]
"""What an entry can be of; `tree` is a plot of trees, and `anything` the site itself too."""
Words = Annotated[str, Field(max_length=120)]
MaterialKey = Annotated[str, Field(max_length=80), FieldType("material")]
KINDS: dict[str, type["LogRecord"]] = {}
"""The kinds of entries by their keys. A kind is one record in `kinds/`: it enters itself here."""


class LogRecord(Value):
    """What every kind of entry says of itself.

    Attributes
    ----------
    kind : str
        Its key: that of its words, too.
    changes_plan : bool
        Whether another plan, or another figure that is learned, may follow from it.
    subject : str
        What it can be of.
    form_place : int or None
        Where the form of the log offers it; not at all where None, as other pages write it.
    account_place : int or None
        The same of the form on the nitrogen page.
    form_fields : tuple of str
        Fields that a form asks for, in this order.
    needed : tuple of str
        Of those, fields that a form never leaves out, though a record without them is read.
    either : tuple of str
        Of those, fields of which one is typed instead of the other.
    starts : tuple of pairs
        What a form begins with, by field, in SI.
    followed : bool
        Whether it is compared over the years.
    """

    model_config = ConfigDict(extra="forbid")
    kind: str
    changes_plan: ClassVar[bool] = False
    subject: ClassVar[Subject] = "plot"
    form_place: ClassVar[int | None] = None
    account_place: ClassVar[int | None] = None
    form_fields: ClassVar[tuple[str, ...]] = ()
    needed: ClassVar[tuple[str, ...]] = ()
    either: ClassVar[tuple[str, ...]] = ()
    starts: ClassVar[tuple[tuple[str, str | float], ...]] = ()
    followed: ClassVar[bool] = False

    @classmethod
    def __pydantic_init_subclass__(cls, **kwargs: Any) -> None:
        """Enter a kind in the register; what several kinds share has no key and is none itself."""
        super().__pydantic_init_subclass__(**kwargs)
        key = cls.model_fields["kind"].default
        if isinstance(key, str):
            KINDS[key] = cls
