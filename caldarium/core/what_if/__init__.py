"""Beside the plan: cures, swaps, loans, the dial, what is idle.

May import every other room of core.
"""
