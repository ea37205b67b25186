"""The rules of the job, as a library.

Standard library only, no database, web or interface code, one topic a file: the same files run on the
server, in a notebook and in a browser. `judge(inspection)` judges a whole inspection; every rule is also
a function that can be called on its own.
"""

from dorrik.core.basics.readings import Reading, ReadingError
from dorrik.core.basics.verdict import Verdict
from dorrik.core.inspection.records import Board, Circuit, Inspection, Limitation, Observation
from dorrik.core.judging.judgement import Judgement, judge

__all__ = [
    "Board",
    "Circuit",
    "Inspection",
    "Judgement",
    "Limitation",
    "Observation",
    "Reading",
    "ReadingError",
    "Verdict",
    "judge",
]
