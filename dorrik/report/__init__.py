"""Documents: what a report says, its typesetting, and its issue."""
