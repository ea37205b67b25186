"""What is judged of an inspection, one topic a file: each a function of the context that yields notes.

`TOPICS` lists them in the order in which they are read in the margin. A new rule goes into the topic it belongs to; a
new topic is a file and a line here.
"""

from collections.abc import Callable, Iterator

from dorrik.core.judging.topics import (
    bathrooms,
    boards,
    bonds,
    breaking_capacity,
    cables,
    earlier,
    earthing,
    insulation_of_boards,
    isolation_of_boards,
    labels_needed,
    leads_in_doubt,
    loops,
    next_inspection,
    origin,
    places,
    points,
    rcds,
    rings,
    rooms,
    sample,
    set_aside_by_agreement,
    special_loads,
    surge,
    trainees,
    years_of_parts,
)
from dorrik.core.judging.topics.context import Context, Note

Topic = Callable[[Context], Iterator[Note]]

TOPICS: tuple[Topic, ...] = (
    origin.notes,
    earthing.notes,
    bonds.notes,
    breaking_capacity.notes,
    set_aside_by_agreement.notes,
    years_of_parts.notes,
    boards.notes,
    surge.notes,
    labels_needed.notes,
    isolation_of_boards.notes,
    leads_in_doubt.notes,
    trainees.notes,
    rings.notes,
    points.notes,
    places.notes,
    bathrooms.notes,
    rooms.notes,
    sample.notes,
    insulation_of_boards.notes,
    loops.notes,
    rcds.notes,
    special_loads.notes,
    cables.notes,
    earlier.notes,
    next_inspection.notes,
)
