"""Lists held against the kit, the check at the table, what is handed out, laying out."""
