"""Caldarium: warmth, load and shelter for every hour of a backcountry course."""
