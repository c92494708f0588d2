"""The plan hour by hour: days, weather and moments.

May import stock, plan and physics.
"""
