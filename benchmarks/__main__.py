"""Run all measurements, or those named."""

import sys

from benchmarks import (
    beside,
    device_rules,
    home,
    homes_a_second,
    hour,
    judging,
    key_to_verdict,
    keys,
    large,
    load,
    machine,
    page_weight,
    planner,
    planning,
    portfolio,
    reports_at_once,
    round_trip,
    searching,
    starting,
    typesetting,
)

ALL = {
    "judging": judging,
    "starting": starting,
    "homes": homes_a_second,
    "typesetting": typesetting,
    "page-weight": page_weight,
    "round-trip": round_trip,
    "key-to-verdict": key_to_verdict,
    "device-rules": device_rules,
    "keys": keys,
    "searching": searching,
    "home": home,
    "large": large,
    "load": load,
    "beside": beside,
    "reports": reports_at_once,
    "planner": planner,
    "planning": planning,
    "portfolio": portfolio,
}

#: Only by its name.
LONG = {"hour": hour}

for name in sys.argv[1:] or ALL:
    # A machine is not the same from hour to hour: each figure is told with the speed that it was taken at.
    print(machine.in_words())
    (ALL | LONG)[name].run()
