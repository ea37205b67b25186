"""Wire types that every resource uses: moments, words, values, and what an error looks like."""

import json
from datetime import datetime
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, PlainSerializer

from dorrik.core.basics.text import tidy

#: Moments are kept without a zone, in universal time; over the line they say so.
Moment = Annotated[datetime, PlainSerializer(lambda m: m.replace(tzinfo=None).isoformat() + "Z", return_type=str)]


def _sane(value: Any) -> Any:
    """Anything that JSON can say and that can be said back: no half of a character pair, no figure without an end."""
    try:
        json.dumps(value, ensure_ascii=False, allow_nan=False).encode()
    except UnicodeEncodeError:
        raise ValueError("holds half a character") from None
    except ValueError:
        raise ValueError("holds a number that has no end") from None
    return value


#: A text that a person wrote, as it is kept (`core.basics.text`).
Words = Annotated[str, AfterValidator(tidy)]


#: A value of whichever kind a field takes; what it may be is the field's to say.
Plain = Annotated[Any, BeforeValidator(_sane)]


class Strict(BaseModel):
    """Incoming data: no unknown parts."""

    model_config = ConfigDict(extra="forbid")


class FieldProblem(BaseModel):
    field: str
    message: str


class Problem(BaseModel):
    """An error: a short code for programs, a message for the person, and the fields it speaks of."""

    code: str
    message: str
    fields: list[FieldProblem] = []
