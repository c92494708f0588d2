"""What a person says: the course value, its parts, its versions, and how it is changed.

May import physics.
"""
