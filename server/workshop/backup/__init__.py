"""Everything in one file, and back.

A backup is a zip of rows, table by table, with a manifest: which migrations made the tables, which
columns, how many rows, with which checksum. Nothing in it is ever run. It goes into tables made by this
release's own migrations, as the role that owns them and nothing else.
"""

from .pictures import Beside
from .restore import prove, put_back
from .write import dump

__all__ = ["Beside", "dump", "prove", "put_back"]
