"""Requests generated from the application's own description: never a 5xx, never an answer that it does not know.

Run with `./test -m fuzz`; SIGNPOST_LONG makes it ten times as many.
"""

import os
import random

import httpx2 as httpx
import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from schemathesis.checks import (
    content_type_conformance,
    not_a_server_error,
    response_schema_conformance,
    status_code_conformance,
)

from signpost.web.app import create_app
from sites import demo_site

pytestmark = pytest.mark.fuzz

EXAMPLES = 600 if os.environ.get("SIGNPOST_LONG") else 60
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
PAGES = ["handbook.html", "index.html", "carriages.html", "lineside.html"]


schema = schemathesis.openapi.from_dict(create_app().openapi())
OPERATIONS = {found.ok().label: found.ok() for found in schema.get_all_operations()}
draw = random.Random(11)
known = {}


def lead_to_what_is_there(case, client):
    """Have most requests mean a site and pages that are there; what is nowhere is refused soon."""
    if case.path_parameters and "site_id" in case.path_parameters and draw.random() < 0.9:
        if client.get(f"/api/sites/{known.get('site')}").status_code != 200:
            known["site"] = demo_site(client).rpartition("/")[2]
        case.path_parameters["site_id"] = known["site"]
    for part in (case.query, case.body):
        for name in ("path", "page"):
            if isinstance(part, dict) and isinstance(part.get(name), str) and draw.random() < 0.8:
                part[name] = draw.choice(PAGES)


@pytest.mark.parametrize("label", OPERATIONS)
def test_generated(label, served):
    with httpx.Client(base_url=served, timeout=60) as client:

        @seed(11)
        @settings(
            max_examples=EXAMPLES,
            deadline=None,
            database=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=OPERATIONS[label].as_strategy())
        def ask(case):
            lead_to_what_is_there(case, client)
            case.call_and_validate(base_url=served, checks=CHECKS)

        ask()
