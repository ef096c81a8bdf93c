"""Long tables a page at a time, so that a page of a thousand pieces weighs what one of a hundred does."""

from dataclasses import dataclass

ROWS = 100


@dataclass(frozen=True, slots=True)
class TablePage:
    """Which rows of a table are shown, counted from 1.

    Args:
        first: the first one shown; above `last` where the table is empty.
        last: the last one shown.
        of: how many there are.
    """

    first: int
    last: int
    of: int

    @property
    def before(self) -> int:
        """The last row of the page before this one; 0 if there is none."""
        return max(0, self.first - 1)

    @property
    def after(self) -> int:
        """The last row of the page after this one; 0 if there is none."""
        return min(self.of, self.last + ROWS) if self.last < self.of else 0


def page_of(last: int, of: int) -> TablePage:
    """Return the page that ends with a row, as long as it may be.

    Args:
        last: the row; one that is not there shows the nearest.
        of: how many rows there are.
    """
    last = max(0, min(max(last, min(of, ROWS)), of))
    return TablePage(max(1, last - ROWS + 1), last, of)
