"""Prints the application's OpenAPI description, from which the front end's types are made."""

import json
import sys

from signpost.web.app import create_app

if __name__ == "__main__":
    json.dump(create_app().openapi(), sys.stdout, indent=1, sort_keys=True)
    sys.stdout.write("\n")
