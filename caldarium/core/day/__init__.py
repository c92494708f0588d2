"""Awake: what is worn, how wet it gets, what fingers and toes do, and the state of each moment.

May import timeline and what is below it; knows nothing of night.
"""
