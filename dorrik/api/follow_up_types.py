"""What stays open on the day, over the wire: things to come back to."""

from pydantic import BaseModel

from dorrik.core.progress import Stage


class ToComeBackOut(BaseModel):
    """Something left for later: what it is about (as it is called now, or was where it is gone), what is still to do,
    where that is entered, and under which board's cover it lies."""

    id: str
    where: str
    what: str
    entity: str
    entity_id: str
    field: str
    stage: Stage
    board_id: str
    gone: bool
