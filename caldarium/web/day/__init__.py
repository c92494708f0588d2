"""Bench, outfits, group and story: the waking day."""
