"""The words on the screens and what they mean here, one word for one thing; in the order in which they are met."""

from collections.abc import Mapping
from types import MappingProxyType

#: Groups of terms: each a word and its meaning. Words are those of BS 7671; a rule book says its own.
TERMS: Mapping[str, tuple[tuple[str, str], ...]] = MappingProxyType(
    {
        "Verdicts": (
            ("Pass", "within its limit, and nothing that it depends on is missing"),
            ("Look at", "worth a look; no failure and no code by itself"),
            ("Fail", "outside its limit: record an observation, or disagree with a reason"),
            ("Not judged yet", "something is missing; the note says what"),
            ("Disagree", "your verdict, with its reason, is shown beside ours and printed"),
        ),
        "Readings": (
            ("LIM", "not tested, with a reason; counted as a limitation"),
            ("N/A", "does not apply: there is no such part"),
            ("N/V", "could not be verified"),
            ("OL", "above the range of the instrument"),
            (">, <", "more or less than the figure: the display went no further"),
            ("Ze", "loop impedance of the supply alone, parallel paths disconnected"),
            ("Zdb", "loop impedance at the board"),
            ("Zs", "loop impedance at the end of a circuit"),
            ("r1, rn, r2", "a ring end to end: line, neutral, cpc"),
            ("R1+R2", "line and cpc of a circuit in series, to its furthest point"),
            ("R2 by long lead", "the cpc alone, from the board to a point"),
            ("Insulation resistance", "between conductors that must not touch; much is good"),
            ("PSCC, PEFC", "fault current between conductors and to earth; the higher is recorded"),
            ("IΔn", "rated residual current of an RCD"),
            ("RA", "resistance of an earth electrode"),
        ),
        "Codes": (
            ("C1", "danger present: tell the person in charge now, make safe with consent"),
            ("C2", "potentially dangerous"),
            ("C3", "improvement recommended; does not make the result unsatisfactory"),
            ("FI", "further investigation without delay"),
            ("No code", "noted; nothing has to be done"),
            ("Second opinion", "a supervisor codes it without seeing yours"),
        ),
        "The work": (
            ("Not confirmed", "copied from earlier papers and not seen yet; drawn dashed"),
            ("Limitation", "what was not inspected or tested, why, and agreed with whom"),
            ("Opened", "an accessory was removed and looked behind"),
            ("Sample", "the points to open, picked at random; it widens with what is found"),
            ("Put right", "the defect no longer exists; needs as left and a retest"),
            ("Made safe", "danger removed for now, with consent; the defect stays"),
            ("Come back", "left for later; done, or a limitation or observation, before issuing"),
            ("On hold", "waits for somebody, with its reason and return visit"),
        ),
        "After the report": (
            ("Cleared", "put right with evidence, and accepted by a competent person"),
            ("Confirmation", "closes the report when all that counts is cleared; no new inspection"),
            ("Issue", "a frozen report; a correction is a new issue that names what it replaces"),
            ("Check code", "shows that a paper is genuine; entered at /check"),
        ),
    }
)
