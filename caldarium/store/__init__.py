"""The database: the only room that knows SQL."""
