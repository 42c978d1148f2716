"""What came and what lies here: loads, piles and their book."""

from ulmatic.core.stock.books import BookEntry, Books, EntryKind, NotThere, books_of
from ulmatic.core.stock.delivery import BookLine, Delivery, Pile
from ulmatic.core.stock.load_size import LoadSize
from ulmatic.core.stock.pile_shape import (
    CLEAR_OF_WALLS,
    HIGHEST,
    REPOSE,
    Stand,
    TipPlan,
    holds,
    measured_pile,
    stand,
    tip_plan,
)
from ulmatic.core.stock.receipt import MeasuredVolume, measured_volume
from ulmatic.core.stock.store import Lot, Store, book_entry
