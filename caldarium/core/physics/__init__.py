"""Air, wind, sky, sun, effort, heat, clothing, bed and shelter: formulas, each with its source.

Imports nothing of the house.
"""
