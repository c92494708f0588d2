"""Tests of the lightest sets."""
