"""What the verdicts rest on: rule book, house rules, tables read otherwise; and what the inspector sees otherwise."""

from typing import Any

from dorrik.core.book import house_rules
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement


def section(inspection: Inspection, judgement: Judgement) -> dict[str, Any]:
    """Rule book and order of tests, house rules that differ from the usual, corrections of tables, overrulings."""
    return {
        "rule_book": judgement.rule_book.name,
        "caution": judgement.rule_book.caution,
        "test_order": list(judgement.rule_book.order),
        "overrulings": _overrulings(judgement),
        "corrections": [
            f"{correction.table}, {correction.row}, {correction.column}: "
            f"{correction.value or 'empty'} ({correction.why})"
            for correction in inspection.table_corrections or ()
        ],
        "house_rules": [
            {
                "label": option["label"],
                "value": house_rules.shown(chosen),
                "usual": house_rules.shown(option["default"]),
            }
            for name, option in house_rules.options().items()
            if (chosen := getattr(judgement.house_rules, name)) != option["default"]
        ],
    }


def _overrulings(judgement: Judgement) -> list[str]:
    """Where the inspector sees a figure otherwise than the rules do, with the reason."""
    return [
        f"{note.title}: {note.verdict.reason} The inspector: {note.overruled.status}. {note.overruled.reason}"
        for note in judgement.notes
        if note.overruled is not None
    ] + [
        f"{suggestion.title}: suggested by {'; '.join(suggestion.because)} "
        f"The inspector does not raise it: {suggestion.declined}"
        for suggestion in judgement.suggested
        if suggestion.declined
    ]
