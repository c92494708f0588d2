"""All English and all units of display: sentences and steps of computation.

Asks core; core never asks back.
"""
