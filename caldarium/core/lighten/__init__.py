"""Lighten: the lightest set with which a whole course holds, and the proof that none is lighter."""
