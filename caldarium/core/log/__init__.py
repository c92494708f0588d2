"""What happened, beside what was planned: readings, the diary, what they teach, the debrief.

May import reassess, tally, lists and everything under them; what_if and pack too. Nothing of core
imports it.
"""
