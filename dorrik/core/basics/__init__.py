"""What everything else stands on: readings as they were written, verdicts, the comparison of a reading with a limit."""
