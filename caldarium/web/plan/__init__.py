"""Courses and people."""
