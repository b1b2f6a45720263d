"""Hypothesis runs the same examples everywhere."""

from hypothesis import HealthCheck, settings

from strategies import EXAMPLES

settings.register_profile(
    "signpost", max_examples=EXAMPLES, derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("signpost")
