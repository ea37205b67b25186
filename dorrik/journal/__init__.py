"""The journal: everything that a user enters is a change, checked, applied and appended in one transaction."""
