"""What the screens need to know before any inspection."""

from functools import cache

from fastapi import Request

from dorrik.api.problems import RESPONSES
from dorrik.api.reference_types import (
    BoardCheckOut,
    ColumnOut,
    DeviceOut,
    FieldOut,
    HouseRuleOut,
    LimitReasonsOut,
    OperatorFaultOut,
    PositionOut,
    Reference,
    RuleBookOut,
    TakesOut,
    UsualCircuitOut,
    UsualRoomOut,
    WorkOut,
)
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.book import catalogue, house_rules
from dorrik.core.book.board_checks import items as checks
from dorrik.core.book.codes import MEANING, ORDER
from dorrik.core.book.rule_book import keys, rule_book
from dorrik.core.book.usual_circuits import USUAL_CABLES, usual_circuits
from dorrik.core.book.usual_rooms import usual_rooms
from dorrik.core.book.works import works
from dorrik.core.electrical.devices import devices
from dorrik.core.home.place_checks import looks
from dorrik.core.home.placing import USUAL_BASINS_M
from dorrik.core.inspection import circuit_columns, positions
from dorrik.core.inspection.field_spec import FieldSpec
from dorrik.core.inspection.instrument_functions import function_of
from dorrik.core.inspection.kinds import KINDS, stage_of
from dorrik.core.inspection.limit_reasons import reasons_of
from dorrik.core.inspection.network_operator import faults
from dorrik.core.judging.result.against import KINDS as AGAINST_KINDS
from dorrik.core.judging.served.walk import Looked
from dorrik.core.judging.wire.judgement import catalogue_view
from dorrik.core.work import workflow
from dorrik.core.work.register import REGISTER

router = make_router("/api", "reference", RESPONSES)


def _field(kind: str, name: str, spec: FieldSpec) -> FieldOut:
    here = kind in KINDS
    function = function_of(spec) if here else None
    reasons = reasons_of(spec) if here else None
    return FieldOut(
        stage=stage_of(kind, name) if here else "",
        action=workflow.action_of(kind, name) if here else "keep the register",
        kind=spec.kind,
        label=spec.label,
        unit=spec.unit,
        choices=list(spec.choices),
        max_length=spec.max_length,
        low=spec.low,
        high=spec.high,
        takes=TakesOut.model_validate(function) if function else None,
        limited=LimitReasonsOut.model_validate(reasons) if reasons else None,
    )


@cache
def _reference() -> Reference:
    book = rule_book()
    return Reference(
        fields={
            kind.name: {name: _field(kind.name, name, spec) for name, spec in kind.fields.items()}
            for kind in (*KINDS.values(), *REGISTER.values())
        },
        columns={
            kind: [ColumnOut.model_validate(column) for column in columns if column.stage or kind == "board"]
            for kind, columns in circuit_columns.BY_KIND.items()
        },
        looks={kind: Looked(one.look, one.observations) for kind, one in looks().items()},
        operator_faults=[OperatorFaultOut.model_validate(fault) for fault in faults().values()],
        works=[WorkOut.model_validate(work) for work in works().values()],
        positions=[PositionOut.model_validate(choice) for choice in positions.CHOICES],
        usual_rooms=[UsualRoomOut.model_validate(room) for room in usual_rooms()],
        usual_circuits=[UsualCircuitOut.model_validate(circuit) for circuit in usual_circuits()],
        usual_cables=[f"{line:g}/{cpc:g}" for line, cpc in USUAL_CABLES],
        usual_basins_m={basin: list(size) for basin, size in USUAL_BASINS_M.items()},
        board_checks=[BoardCheckOut(key=i.key, label=i.label, observation=i.observation) for i in checks().values()],
        catalogue=[catalogue_view(entry) for entry in catalogue.entries().values()],
        devices=[DeviceOut.model_validate(device, from_attributes=True) for device in devices()],
        house_rules=[HouseRuleOut(name=name, **option) for name, option in house_rules.options().items()],
        code_meanings=MEANING,
        code_order=list(ORDER),
        against_kinds={kind: list(words) for kind, words in AGAINST_KINDS.items()},
        rule_books=[RuleBookOut.model_validate(rule_book(key), from_attributes=True) for key in keys()],
        rule_book=book.name,
        caution=book.caution,
    )


@router.get("/reference")
def reference(request: Request) -> Reference:
    """Fields, catalogue of observations, devices, house rules, rule book."""
    with work(request):
        return _reference()
