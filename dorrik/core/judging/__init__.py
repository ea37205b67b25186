"""Judging a whole inspection: topics, result, what was covered, and what the screens are served."""
