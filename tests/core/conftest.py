"""Hypothesis runs the same examples everywhere."""

from hypothesis import HealthCheck, settings

settings.register_profile(
    "signpost", max_examples=150, derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("signpost")
