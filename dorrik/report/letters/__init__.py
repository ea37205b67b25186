"""What letters say, as plain data for their template: words chosen here, layout in `facts_letter.typ`.

A device without a server makes their drafts by the same words: nothing here reads files or the database.
"""

from typing import Any

from dorrik.report.content import Issue, day


def letter(issue: Issue, **said: Any) -> dict[str, Any]:
    """What begins and ends every letter, from whoever writes it, with what this one says."""
    return {
        "firm": issue.letterhead(),
        "on": day(issue.issued_on),
        "signed_by": issue.signed_by,
        "role": issue.role,
        **said,
    }
