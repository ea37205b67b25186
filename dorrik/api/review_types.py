"""A report on its way over the line: signatures, steps, and what changed."""

from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from pydantic import AwareDatetime, BaseModel, Field, model_validator

from dorrik.api.common_types import Moment, Strict, Words
from dorrik.api.problems import ProblemError
from dorrik.core.inspection.stages import Stage
from dorrik.report.signing import HIGH, WIDE
from dorrik.store.people.people import Person

#: A hand's signature has at least so many points, and at most.
LEAST_POINTS, MOST_POINTS = 8, 6000
_Point = tuple[Annotated[int, Field(ge=0, le=WIDE)], Annotated[int, Field(ge=0, le=HIGH)]]
_Stroke = Annotated[list[_Point], Field(min_length=1, max_length=2000)]


class SignatureIn(Strict):
    """One's own name typed, or strokes of a pen: points across and down (0 to 1000, 0 to 300)."""

    typed: Words | None = Field(default=None, max_length=120)
    strokes: list[_Stroke] | None = Field(default=None, max_length=80)

    @model_validator(mode="after")
    def _one_of_both(self) -> "SignatureIn":
        if (self.typed is None) == (self.strokes is None):
            raise ValueError("Type your name, or sign with a pen.")
        if self.strokes is not None:
            points = sum(map(len, self.strokes))
            if not LEAST_POINTS <= points <= MOST_POINTS:
                raise ValueError("That is no signature: draw it again, or type your name.")
        return self

    def of(self, me: Person) -> dict[str, Any]:
        """As it is kept. Answers with 422 where what is typed is not that person's name."""
        if self.typed is None:
            return {"strokes": self.strokes}
        if " ".join(self.typed.split()).casefold() != " ".join(me.name.split()).casefold():
            message = f"Type your name as the firm has it: {me.name}."
            raise ProblemError(422, "invalid", message, fields=[{"field": "signature.typed", "message": message}])
        return {"typed": self.typed}


#: What waits on a device as somebody signs there is a long day's work at most.
MOST_CHANGES = 20_000


class SubmitIn(Strict):
    """seen_seq: what the person had before them; with_changes: ids of what waited on their device beside it, where they
    signed without a server; signed_at: when that was."""

    seen_seq: int = Field(ge=0, le=2**31 - 1)
    signature: SignatureIn
    with_changes: list[Annotated[str, Field(pattern="^[0-9a-f-]{36}$")]] = Field(default=[], max_length=MOST_CHANGES)
    signed_at: AwareDatetime | None = None

    def signed(self, me: Person, now: datetime) -> dict[str, Any]:
        """The signature as it is kept, with its moment where it was given before it arrived. now: universal time; a
        device whose clock is ahead signs no later than that."""
        kept = self.signature.of(me)
        if self.signed_at is None:
            return kept
        at = min(self.signed_at.astimezone(UTC).replace(tzinfo=None, microsecond=0), now.replace(microsecond=0))
        return kept | {"signed_at": f"{at.isoformat()}Z"}


class SendBackIn(Strict):
    words: Words = Field(min_length=1, max_length=1000)


class LookedIn(Strict):
    """seq: up to where it was read."""

    seq: int = Field(ge=0, le=2**31 - 1)


class StepOut(BaseModel):
    """One step, with who took it and their words; signed: how they signed; signed_at: when, where that was before it
    arrived."""

    number: int
    kind: Literal["submitted", "sent back", "authorised"]
    at: Moment
    name: str
    words: str | None
    signed: Literal["typed", "drawn"] | None
    signed_at: str | None


class ChangedOut(BaseModel):
    """A field that was changed, in words."""

    where: str
    label: str
    before: str
    now: str
    by: str
    at: Moment
    stage: Stage
    entity: str
    entity_id: str
    field: str


class ReviewOut(BaseModel):
    """How a report stands on its way; see `office.review.Review`."""

    seq: int
    steps: list[StepOut]
    in_review: bool
    reopened: list[ChangedOut]
    since_look: list[ChangedOut] | None
