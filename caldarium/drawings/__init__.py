"""Drawings: SVG text from assessment results. No web, no database, no styles of their own."""
