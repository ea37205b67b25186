"""Inspections as they are kept, their lists, their judging, and the opinions and reviews about them."""
