"""What is judged of an inspection, one topic a file: each a function of the context that yields notes.

`TOPICS` lists them in the order in which they are read in the margin. A new rule goes into the topic it belongs to; a
new topic is a file and a line here.
"""

from collections.abc import Callable, Iterator

from dorrik.core.topics import (
    ages,
    bathrooms,
    boards,
    bonds,
    cables,
    earlier,
    earthing,
    fault_current,
    instruments,
    insulation,
    interval,
    isolation,
    labels,
    loops,
    places,
    points,
    rcds,
    rings,
    rooms,
    sample,
    set_aside,
    special_loads,
    supply,
    surge,
    trainees,
)
from dorrik.core.topics.context import Context, Note

Topic = Callable[[Context], Iterator[Note]]

TOPICS: tuple[Topic, ...] = (
    supply.notes,
    earthing.notes,
    bonds.notes,
    fault_current.notes,
    set_aside.notes,
    ages.notes,
    boards.notes,
    surge.notes,
    labels.notes,
    isolation.notes,
    instruments.notes,
    trainees.notes,
    rings.notes,
    points.notes,
    places.notes,
    bathrooms.notes,
    rooms.notes,
    sample.notes,
    insulation.notes,
    loops.notes,
    rcds.notes,
    special_loads.notes,
    cables.notes,
    earlier.notes,
    interval.notes,
)
