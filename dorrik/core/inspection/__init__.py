"""What an inspection holds: its declared records and fields, and the document that they make."""
