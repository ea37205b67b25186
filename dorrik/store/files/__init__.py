"""What lies beside the database: photos, drafts, backups."""
