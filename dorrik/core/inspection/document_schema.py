"""The JSON Schema of the inspection document, made from the declared fields; kept in `docs/inspection.schema.json`."""

from typing import Any

from dorrik.core.book import catalogue, house_rules
from dorrik.core.inspection.document import FORMAT, READS
from dorrik.core.inspection.field_spec import (
    DEAD,
    LIVE,
    MARKS,
    MOST_ANSWERS,
    MOST_MARKS,
    MOST_PAIRINGS,
    MOST_PARTITIONS,
    PARTITION,
    FieldSpec,
)
from dorrik.core.inspection.kinds import KINDS, EntityKind


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
        if kind.name in child.parents:
            properties[child.plural] = {"type": "array", "items": {"$ref": f"#/$defs/{child.name}"}}
    return {"type": "object", "required": ["id"], "additionalProperties": False, "properties": properties}


def _field(spec: FieldSpec) -> dict[str, Any]:
    title = f"{spec.label} ({spec.unit})" if spec.unit else spec.label
    field_schema: dict[str, Any] = {"title": title}
    match spec.kind:
        case "text":
            field_schema |= {"type": ["string", "null"], "maxLength": spec.max_length}
        case "choice":
            field_schema |= {"enum": [*spec.choices, None]}
        case "number" | "integer":
            field_schema |= {"type": [spec.kind, "null"], "minimum": spec.low, "maximum": spec.high}
        case "reading":
            description = "A figure, >299 or <0.05, OL, LIM with a reason, N/A or N/V."
            field_schema |= {"type": ["string", "null"], "maxLength": 200, "description": description}
        case "flag":
            field_schema |= {"type": ["boolean", "null"]}
        case "date":
            field_schema |= {"type": ["string", "null"], "format": "date"}
        case "instant":
            field_schema |= {"type": ["string", "null"], "format": "date-time"}
        case "options":
            choices = {name: {"enum": option["choices"]} for name, option in house_rules.options().items()}
            field_schema |= {"type": ["object", "null"], "additionalProperties": False, "properties": choices}
        case "corrections":
            parts = {name: {"type": "string"} for name in ("table", "row", "column", "value", "why")}
            item_schema = {
                "type": "object",
                "required": list(parts),
                "additionalProperties": False,
                "properties": parts,
            }
            field_schema |= {"type": ["array", "null"], "maxItems": 200, "items": item_schema}
        case "pairings":
            field_schema |= {
                "type": ["object", "null"],
                "maxProperties": MOST_PAIRINGS,
                "additionalProperties": {"enum": [DEAD, LIVE]},
            }
        case "partitions":
            metres = {"type": "number", "minimum": 0, "maximum": 30}
            item_schema = {
                "type": "object",
                "required": list(PARTITION),
                "additionalProperties": False,
                "properties": dict.fromkeys((*PARTITION, "top_m"), metres),
            }
            field_schema |= {"type": ["array", "null"], "maxItems": MOST_PARTITIONS, "items": item_schema}
        case "answers":
            field_schema |= {
                "type": ["object", "null"],
                "maxProperties": MOST_ANSWERS,
                "additionalProperties": {"type": "boolean"},
            }
        case "entries":
            texts = {name: {"type": "string", "maxLength": catalogue.LONGEST} for name in ("key", *catalogue.OWN)}
            item_schema = {"type": "object", "required": ["key"], "additionalProperties": False, "properties": texts}
            field_schema |= {"type": ["array", "null"], "maxItems": catalogue.MOST_OWN, "items": item_schema}
        case "marks":
            ends = {name: {"type": "number", "minimum": 0, "maximum": 1} for name in ("x", "y", "x2", "y2")}
            item_schema = {
                "type": "object",
                "required": ["kind", *ends],
                "additionalProperties": False,
                "properties": {"kind": {"enum": list(MARKS)}} | ends,
            }
            field_schema |= {"type": ["array", "null"], "maxItems": MOST_MARKS, "items": item_schema}
    return field_schema
