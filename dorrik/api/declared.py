"""What the front end must know of the declarations before any server has answered, as TypeScript: kinds of entities,
what they hang on, the stages and floors in their order, and what a check can be. Written by `make openapi`."""

import json

from dorrik.core.inspection.check import STATES
from dorrik.core.inspection.records import KINDS
from dorrik.core.inspection.room import FLOORS
from dorrik.core.judging.coverage.progress import STAGES

_HEAD = "/** Written by `make openapi` from the declarations of the rules (dorrik/api/declared.py). */"


def typescript() -> str:
    """The generated module, as the formatter of the front end leaves it alone (`*.gen.ts`)."""
    parents = {kind.name: list(kind.parents) for kind in KINDS.values()}
    lists = {"STAGES": list(STAGES), "FLOORS": list(FLOORS), "CHECK_STATES": list(STATES)}
    parts = [
        _HEAD,
        f"export type Kind = {' | '.join(map(json.dumps, parents))};",
        "/** What an entity can hang on, the usual first: the field that makes it is named after that. */",
        f"export const PARENTS: Readonly<Record<Kind, readonly string[]>> = {json.dumps(parents, indent=2)};",
        *(
            f"export const {name} = {json.dumps(values, ensure_ascii=False)} as const;"
            for name, values in lists.items()
        ),
    ]
    return "\n".join(parts)
