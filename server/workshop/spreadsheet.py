"""Tables for spreadsheets, which run whatever looks like a formula."""

_RUN = ("=", "+", "-", "@", "\t", "\r")


def as_text(cell: str) -> str:
    """A cell no spreadsheet takes for a formula."""
    return f"'{cell}" if cell.startswith(_RUN) else cell
