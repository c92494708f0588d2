"""The check at the table and what is handed out: its record, cures, random samples, laying out.

May import lists, pack and everything below them.
"""
