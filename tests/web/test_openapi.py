"""The front end's types are those of the application as it is."""

import json
from pathlib import Path

from signpost.web.app import create_app

FRONTEND = Path(__file__).parents[2] / "frontend"


def test_the_description_that_the_types_are_made_from_is_current():
    current = json.loads(json.dumps(create_app().openapi()))
    assert json.loads((FRONTEND / "openapi.json").read_text()) == current, (
        "run: .venv/bin/python -m signpost.web.openapi > frontend/openapi.json; (cd frontend; npm run types)"
    )
    types = (FRONTEND / "src/api/schema.d.ts").read_text()
    assert all(f'"{path}"' in types for path in current["paths"])
    assert all(f"{name}:" in types for name in current["components"]["schemas"])
