"""How many examples a property test tries: a few in `make test`, all of them in `make fuzz`."""

import os

#: Every example that a test asks for, however long that takes (`make fuzz` sets it).
EVERY = bool(os.environ.get("DORRIK_EVERY_EXAMPLE"))
#: The most that a property test tries otherwise.
FEW = 15


def examples(wanted: int) -> int:
    """The number of examples to try of those that are wanted."""
    return wanted if EVERY else min(wanted, FEW)
