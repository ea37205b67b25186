"""Numbers and verdicts on readings alone, one subject a file. Nothing here knows of an inspection."""
