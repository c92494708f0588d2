"""What lists of gear ask, held against what people carry: things, conditions, judgement.

May import load and everything below it; knows no assessment.
"""
