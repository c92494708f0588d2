"""Load and lists."""
