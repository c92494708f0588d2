"""Night and shelter."""
