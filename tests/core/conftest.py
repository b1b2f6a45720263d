"""Hypothesis runs the same examples everywhere."""

from hypothesis import settings

from strategies import PROFILE

settings.load_profile(PROFILE)
