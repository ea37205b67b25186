"""The declarations of the rules as TypeScript: kinds of entities with their fields and what each may hold, what they
hang on, the stages and floors in their order, and what a check can be. Written by `make openapi`.

The front end knows them before any server has answered, and a field that is misspelt there does not compile.
"""

import json
from collections.abc import Iterator, Mapping

from dorrik.core.inspection.check import STATES
from dorrik.core.inspection.field_spec import FieldSpec
from dorrik.core.inspection.kinds import KINDS, EntityKind
from dorrik.core.inspection.photo_marks import FIGURES
from dorrik.core.inspection.room import FLOORS
from dorrik.core.inspection.stages import STAGES
from dorrik.core.judging.served.intake_drawing import PARTS
from dorrik.core.work.register import REGISTER

_HEAD = "/** Written by `make openapi` from the declarations of the rules (dorrik/api/declared.py). */"
_TYPES = {
    "text": "string",
    "reading": "string",
    "date": "string",
    "instant": "string",
    "number": "number",
    "integer": "number",
    "flag": "boolean",
    "options": "Record<string, unknown>",
    "pairings": "Record<string, unknown>",
    "answers": "Record<string, unknown>",
    "corrections": "Record<string, unknown>[]",
    "partitions": "Record<string, unknown>[]",
    "marks": "Record<string, unknown>[]",
    "entries": "Record<string, unknown>[]",
}


def typescript() -> str:
    """The generated module, as the formatter of the front end leaves it alone (`*.gen.ts`)."""
    parents = {kind.name: list(kind.parents) for kind in KINDS.values()}
    intake = {part: list(fields) for part, fields in PARTS.items()}
    lists = {"STAGES": list(STAGES), "FLOORS": list(FLOORS), "CHECK_STATES": list(STATES)}
    parts = [
        _HEAD,
        *_interface("Fields", "What may stand in each field of an entity, by its kind; null for nothing.", KINDS),
        *_interface("RegisterFields", "The same of what the register keeps.", REGISTER),
        "export type Kind = keyof Fields;",
        "export type FieldOf<K extends Kind> = keyof Fields[K] & string;",
        "/** What an entity can hang on, the usual first: the field that makes it is named after that. */",
        f"export const PARENTS = {json.dumps(parents, indent=2)} as const satisfies Record<Kind, readonly string[]>;",
        "export type ParentOf<K extends Kind> = (typeof PARENTS)[K][number];",
        "/** How marks on a photo are laid out, in thousandths of its longer side (core/inspection/photo_marks.py). */",
        f"export const MARKED = {json.dumps(dict(FIGURES))} as const;",
        "/** Fields of the inspection by the part of the intake that they belong to, the one to begin with first. */",
        f"export const INTAKE = {json.dumps(intake, indent=2)} as const;",
        *(
            f"export const {name} = {json.dumps(values, ensure_ascii=False)} as const;"
            for name, values in lists.items()
        ),
    ]
    return "\n".join(parts)


def _interface(name: str, says: str, kinds: Mapping[str, EntityKind]) -> Iterator[str]:
    yield f"/** {says} */"
    yield f"export interface {name} {{"
    for kind in kinds.values():
        yield f"  {kind.name}: {{"
        yield from (f"    {field}: {_type(spec)};" for field, spec in kind.fields.items())
        yield "  };"
    yield "}"


def _type(spec: FieldSpec) -> str:
    if spec.kind == "choice":
        return " | ".join(json.dumps(choice, ensure_ascii=False) for choice in spec.choices)
    return _TYPES[spec.kind]
