"""Requests drawn at random by somebody who knows the operations: what they name is there, more often than not."""

import random
from typing import Any

#: Texts that nobody means, or means harm with.
HOSTILE = [
    *[
        "",
        " ",
        "\0",
        "\1",
        "a\nb",
        "\r",
        "\ud800",
        "\ufffe",
        "&#1;",
        "&#xd800;",
        "</h2>",
        "<b",
        "--",
        '"',
        "'",
        "`",
        "\\",
        "%",
        "%zz",
    ],
    *[
        "../x",
        "/x",
        "//x",
        "a/../b",
        ".hidden",
        "con.html",
        "x" * 300,
        "\u202ea",
        "é",
        "\U0001f682",
        "#",
        "#top",
        "top",
        "javascript:x",
    ],
    *[
        "http://[",
        "https://a:99999/",
        "mailto:",
        "data:,x",
        "{",
        "}",
        "${",
        "-1",
        "1e9",
        "١",
        "ß",
        "ﬁ",
        "İ",
        "𝔸",
        "&amp;",
        "&nbsp;",
    ],
]
NUMBERS = [-(2**63), -(2**31) - 1, -1, 0, 1, 2, 3, 5, 100, 10**6, 2**31, 2**53 + 1, 2**63 - 1, 2**64]
#: How deep a value is drawn at most; a schema may contain itself.
DEEPEST = 6


class Asker:
    """Draws values for a schema (JSON Schema 2020-12, as far as the application's description uses it)."""

    def __init__(self, description: dict[str, Any], seed: int) -> None:
        self.schemas = description["components"]["schemas"]
        self.paths = description["paths"]
        self.chance = random.Random(seed)
        self.known: dict[str, list[Any]] = {}

    def learn(self, site: dict[str, bytes], page: dict[str, Any]) -> None:
        """Take note of what is there: files, and what a page's desk shows of sections, identifiers and links."""
        texts, numbers = set(), set()

        def look(value: object, name: str = "") -> None:
            if isinstance(value, dict):
                for key, one in value.items():
                    look(one, key)
            elif isinstance(value, list):
                for one in value[:40]:
                    look(one, name)
            elif isinstance(value, bool) or value is None:
                return
            elif isinstance(value, int | float):
                numbers.add(int(value))
            elif isinstance(value, str) and len(value) < 200:
                texts.add(value)
                self.known.setdefault(name, []).append(value)

        look(page)
        self.known |= {name: values[-60:] for name, values in self.known.items()}
        paths = sorted(site)
        for name in ("path", "page", "to_page", "pages", "paths", "home", "frame", "model"):
            self.known[name] = paths
        self.known["numbers"] = sorted(numbers)[:200] or [0]
        self.known["texts"] = sorted(texts)[:200] or [""]

    def value(self, schema: dict[str, Any], name: str = "", depth: int = 0) -> Any:
        """Return a value for a schema, seldom one that does not fit."""
        chance = self.chance
        if chance.random() < 0.01:
            return chance.choice([None, [], {}, *HOSTILE, *NUMBERS])
        if "$ref" in schema:
            return self.value(self.schemas[schema["$ref"].rpartition("/")[2]], name, depth + 1)
        for several in ("anyOf", "oneOf", "allOf"):
            if several in schema:
                fitting = [one for one in schema[several] if one.get("type") == "null"] if depth > DEEPEST else []
                return self.value(chance.choice(fitting or schema[several]), name, depth + 1)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return chance.choice(schema["enum"])
        return self._typed(schema, name, depth)

    def _typed(self, schema: dict[str, Any], name: str, depth: int) -> Any:
        chance = self.chance
        match schema.get("type"):
            case "object":
                found: Any = self._object(schema, depth)
            case "array":
                most = 0 if depth > DEEPEST else chance.choice([0, 1, 1, 2, 5])
                most = max(most, schema.get("minItems", 0))
                found = [self.value(schema.get("items") or {}, name, depth + 1) for _ in range(most)]
            case "integer":
                found = self._number(schema)
            case "number":
                found = chance.choice([self._number(schema), chance.uniform(-1, 1e4)])
            case "boolean":
                found = chance.random() < 0.5
            case "null":
                found = None
            case _:
                found = self._text(name)
        return found

    def _object(self, schema: dict[str, Any], depth: int) -> dict[str, Any]:
        chance = self.chance
        found = {
            name: self.value(one, name, depth + 1)
            for name, one in schema.get("properties", {}).items()
            if name in schema.get("required", ()) or chance.random() < 0.5
        }
        more = schema.get("additionalProperties")
        if isinstance(more, dict) and depth <= DEEPEST:
            found |= {self._text("path"): self.value(more, "", depth + 1) for _ in range(chance.choice([0, 1, 2]))}
        return found

    def _number(self, schema: dict[str, Any]) -> int:
        chance = self.chance
        least, most = schema.get("minimum", 0), schema.get("maximum", 12)
        drawn = [chance.randint(int(least), max(int(least), int(most))), chance.randint(0, 8)]
        return chance.choice([*drawn, *drawn, chance.choice(self.known["numbers"]), chance.choice(NUMBERS)])

    def _text(self, name: str) -> str:
        chance = self.chance
        drawn = chance.random()
        if drawn < 0.65 and self.known.get(name):
            return str(chance.choice(self.known[name]))
        if drawn < 0.8:
            return str(chance.choice(self.known["texts"]))
        if drawn < 0.9:
            return chance.choice(HOSTILE)
        return "".join(chance.choice([*HOSTILE, "a", "b", " ", "-", "1"]) for _ in range(chance.randint(1, 4)))

    def body(self) -> dict[str, Any]:
        """Return the body of an operation."""
        body = self.paths["/api/sites/{site_id}/plans"]["post"]["requestBody"]["content"]["application/json"]
        found = self.value(self.chance.choice(body["schema"]["oneOf"]))
        return found if isinstance(found, dict) else {"operation": found}

    def question(self) -> tuple[str, dict[str, Any]]:
        """Return an address within a site that can be asked for, and its query."""
        asked = [path for path, methods in self.paths.items() if "get" in methods and "{site_id}/" in path]
        path = self.chance.choice([one for one in asked if not one.endswith(("/reading", "/measure", "/measures"))])
        query = {}
        for one in self.paths[path]["get"].get("parameters", []):
            value = self.value(one.get("schema", {}), one["name"])
            if one["in"] == "path" and one["name"] != "site_id":
                path = path.replace("{" + one["name"] + "}", str(value).replace("/", "") or "x")
            elif one["in"] == "query" and (one.get("required") or self.chance.random() < 0.5) and value is not None:
                query[one["name"]] = value
        return path.partition("{site_id}")[2], query
