"""The job itself: pure functions and frozen values. Nothing here knows pages, SQL or files."""
