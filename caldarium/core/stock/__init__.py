"""The store: pieces that can be issued, their kinds, and what stands for them in somebody's kit.

May import plan and physics.
"""
