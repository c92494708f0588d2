"""What everybody carries: hours, provisions, shares of the group's kit, lists and travel.

May import day, night and what is below them.
"""
