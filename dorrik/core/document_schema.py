"""The JSON Schema of the inspection document, made from the declared fields; kept in `docs/inspection.schema.json`."""

from typing import Any

from dorrik.core import house_rules
from dorrik.core.document import FORMAT, READS
from dorrik.core.fields import DEAD, LIVE, MOST_PAIRINGS, FieldSpec
from dorrik.core.inspection import KINDS, EntityKind


def schema() -> dict[str, Any]:
    """A JSON Schema (2020-12). What it admits can still be refused by `document.parse` for its content: a reading that
    is none, a date to come, an id that stands twice."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Dorrik inspection",
        "description": "One inspection of one installation. Readings stand as they were written.",
        "type": "object",
        "required": ["format", "version", "inspection"],
        "properties": {
            "format": {"const": FORMAT},
            "version": {"enum": list(READS)},
            "inspection": {"$ref": "#/$defs/inspection"},
        },
        "$defs": {kind.name: _entity(kind) for kind in KINDS.values()},
    }


def _entity(kind: EntityKind) -> dict[str, Any]:
    properties: dict[str, Any] = {"id": {"type": "string", "minLength": 1, "maxLength": 36}}
    properties |= {name: _field(spec) for name, spec in kind.fields.items()}
    for child in KINDS.values():
        if child.parent == kind.name:
            properties[child.plural] = {"type": "array", "items": {"$ref": f"#/$defs/{child.name}"}}
    return {"type": "object", "required": ["id"], "additionalProperties": False, "properties": properties}


def _field(spec: FieldSpec) -> dict[str, Any]:
    title = f"{spec.label} ({spec.unit})" if spec.unit else spec.label
    found: dict[str, Any] = {"title": title}
    match spec.kind:
        case "text":
            found |= {"type": ["string", "null"], "maxLength": spec.max_length}
        case "choice":
            found |= {"enum": [*spec.choices, None]}
        case "number" | "integer":
            found |= {"type": [spec.kind, "null"], "minimum": spec.low, "maximum": spec.high}
        case "reading":
            told = "A figure, >299 or <0.05, OL, LIM with a reason, N/A or N/V."
            found |= {"type": ["string", "null"], "maxLength": 200, "description": told}
        case "flag":
            found |= {"type": ["boolean", "null"]}
        case "date":
            found |= {"type": ["string", "null"], "format": "date"}
        case "instant":
            found |= {"type": ["string", "null"], "format": "date-time"}
        case "options":
            choices = {name: {"enum": option["choices"]} for name, option in house_rules.options().items()}
            found |= {"type": ["object", "null"], "additionalProperties": False, "properties": choices}
        case "corrections":
            parts = {name: {"type": "string"} for name in ("table", "row", "column", "value", "why")}
            one = {"type": "object", "required": list(parts), "additionalProperties": False, "properties": parts}
            found |= {"type": ["array", "null"], "maxItems": 200, "items": one}
        case "pairings":
            found |= {
                "type": ["object", "null"],
                "maxProperties": MOST_PAIRINGS,
                "additionalProperties": {"enum": [DEAD, LIVE]},
            }
    return found
