"""Asleep: beds, nights hour by hour, shelters and the camp.

May import timeline and what is below it; knows nothing of day.
"""
