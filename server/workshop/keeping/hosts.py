"""What a machine is called in a network; nothing here needs Django."""

from ipaddress import ip_address


def is_number(host: str) -> bool:
    """Whether it is a machine's number in the network rather than a name."""
    try:
        ip_address(host.strip("[]"))
    except ValueError:
        return False
    return True
