"""What is said of bottles and of what is laid out."""


def bottle(open_one: bool, size: str) -> str:
    """A bottle by its state and size."""
    return f"open {size} bottle" if open_one else f"sealed {size} bottle"


def not_there(amount: str, name: str) -> str:
    """What a visit used that the shelf does not have."""
    return f"{amount} of {name} came from elsewhere: the shelf has no more."


def emptied(name: str, count: int) -> str:
    """Bottles that are used up."""
    return f"all of the {name}" if count == 1 else f"all of {count} {name}s"


def rest_of(amount: str, name: str) -> str:
    """What is left in a bottle that was begun."""
    return f"the {amount} left in the {name}"


def part_of(amount: str, name: str, keeps: str) -> str:
    """So much of a bottle."""
    return f"{amount} of the {name}, which keeps {keeps}"


def bought(count: int, ml: int) -> str:
    """Bottles to buy."""
    return f"buy {count} of {ml} ml"


def nothing_fits(amount: str) -> str:
    """No fluid here may go in."""
    return f"nothing here fits: buy {amount}"


def of_batch(what: str, batch: str) -> str:
    """A bottle, or a fluid, and what is printed on it."""
    return f"{what}, batch {batch}" if batch else what


def to_buy(amount: str, asked: str) -> str:
    """What is to be bought, by what the reservoir asks for."""
    return f"{amount} of {asked or NOT_SAID}"


NOT_SAID = "oil the sheet does not name"


def left_over(amount: str) -> str:
    """What the bought bottles keep."""
    return f"{amount} will be left over"


def of_one_bottle(amount: str, size: str) -> str:
    """Part of the bottle in hand."""
    return f"{amount} of a {size} bottle"


def whole_bottles(count: int, size: str, rest: str) -> str:
    """Whole bottles, and what is missing still."""
    whole = f"1 whole {size} bottle" if count == 1 else f"{count} whole {size} bottles"
    return f"{whole} and {rest}" if rest else whole
