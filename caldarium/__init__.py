"""Caldarium: warmth, load and shelter for every hour of a backcountry course."""

import os

# Set before numpy is loaded. The matrices are small: threads of linear algebra would wait for one
# another, and longest where something else is at work beside them.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
