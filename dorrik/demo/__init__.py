"""The demo: a made-up harbour town, its firm of inspectors and its homes, entered as a user's changes."""
