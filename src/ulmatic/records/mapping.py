"""How the records of the job are stored: names in code beside those of columns, declared once a record."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar
from uuid import UUID

from pydantic import BaseModel
from pydantic_core import to_jsonable_python
from sqlalchemy.dialects.postgresql import JSONB

from ulmatic.core.stock import LoadSize
from ulmatic.platform.database import WorkspaceRow
from ulmatic.records.log import LedgerRow, PhotoRow
from ulmatic.records.money import QuoteRow
from ulmatic.records.schedule import WeatherRow
from ulmatic.records.stock import BookRow, DeliveryRow, PileRow
from ulmatic.records.supply import OfferRow, SupplierRow
from ulmatic.records.survey import LandmarkRow, PlotRow

Row = TypeVar("Row", bound=WorkspaceRow)
Value = TypeVar("Value", bound=BaseModel)


@dataclass(frozen=True)
class RecordMapping(Generic[Row]):
    """A record as it is stored, sent and archived.

    Attributes
    ----------
    row : type
        Its table.
    columns : mapping of str to str
        Names of columns, by the names of fields where they differ.
    reads : mapping of str to callable
        What turns a stored value into that of a field, where it is more than the field takes.
    references : frozenset of str
        Fields that hold the id of another part of the site.
    """

    row: type[Row]
    columns: Mapping[str, str] = field(default_factory=dict)
    reads: Mapping[str, Callable[[Any], Any]] = field(default_factory=dict)
    references: frozenset[str] = frozenset()

    def column(self, name: str) -> str:
        """Return the name of the column of a field."""
        return self.columns.get(name, name)

    def value(self, model: type[Value], row: Row, **more: Any) -> Value:
        """Return a row as a value of a model, with what else its fields take.

        Parameters
        ----------
        model : type
            Its fields are read from the columns of their names; those that the table does not have keep their defaults.
        row : Row
        """
        fields: dict[str, Any] = {}
        for name in model.model_fields:
            if name not in more and hasattr(row, self.column(name)):
                stored = getattr(row, self.column(name))
                fields[name] = self.reads[name](stored) if name in self.reads else stored
        return model.model_validate({**fields, **more})

    def row_of(self, value: BaseModel, renew: Callable[[UUID], UUID] | None = None, **more: Any) -> Row:
        """Return a new row for a value, with new ids; columns that `more` names are as it says.

        Parameters
        ----------
        value : BaseModel
        renew : callable, optional
            Returns the id that a part has here; the same where left out.
        """
        table = self.row.__table__.c  # type: ignore[attr-defined]
        columns: dict[str, Any] = {}
        for name in type(value).model_fields:
            column, part = self.column(name), getattr(value, name)
            if column in more or column not in table:
                continue
            if renew is not None and (name == "id" or (name in self.references and part is not None)):
                part = renew(part)
            columns[column] = to_jsonable_python(part) if isinstance(table[column].type, JSONB) else part
        return self.row(**{**columns, **more})


LEDGER = RecordMapping(
    LedgerRow, {"written_at": "created_at"}, references=frozenset({"plot_id", "pile_id", "corrects"})
)
BOOK = RecordMapping(
    BookRow, {"written_at": "created_at"}, references=frozenset({"plot_id", "pile_id", "to_pile_id", "delivery_id"})
)
DELIVERY = RecordMapping(
    DeliveryRow,
    {"size": "promised"},
    {"size": lambda promised: {name: promised[name] for name in LoadSize.model_fields}},
)
PILE = RecordMapping(PileRow)
PLOT = RecordMapping(PlotRow, {"site_conditions": "found"})
LANDMARK = RecordMapping(LandmarkRow)
SUPPLIER = RecordMapping(SupplierRow)
OFFER = RecordMapping(OfferRow)
PHOTO = RecordMapping(PhotoRow)
QUOTE = RecordMapping(QuoteRow)
WEATHER = RecordMapping(WeatherRow)
