"""Run all measurements, or those named."""

import sys

from benchmarks import judging, page_weight, round_trip, typesetting

ALL = {"judging": judging, "typesetting": typesetting, "page-weight": page_weight, "round-trip": round_trip}

for name in sys.argv[1:] or ALL:
    ALL[name].run()
