"""The database itself: its server, its tables and migrations, what is done once."""
