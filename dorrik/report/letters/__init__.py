"""What letters say, as plain data for their template: words chosen here, layout in `facts_letter.typ`.

A device without a server makes their drafts by the same words: nothing here reads files or the database.
"""
