#!/usr/bin/env python
"""Print every message that the product refuses something with, so that all can be read in one go.

    scripts/list_messages.py [words]     only those that contain the words

A line a message: the file and line it is raised at, and its text, with `{…}` for what is filled in. The titles of
findings are in `core/findings/catalogue.py` already.
"""

from __future__ import annotations

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).resolve().parent.parent / "src" / "signpost"


def text_of(node: ast.expr) -> str | None:
    """The text an expression makes, with what is filled in as `{name}`; None if it makes no text of ours."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return node.value
    if isinstance(node, ast.JoinedStr):
        return "".join(
            f"{{{ast.unparse(part.value)}}}" if isinstance(part, ast.FormattedValue) else text_of(part) or ""
            for part in node.values
        )
    if isinstance(node, ast.BinOp) and isinstance(node.op, ast.Add):
        texts = (text_of(node.left), text_of(node.right))
        return "".join(text or "{…}" for text in texts) if any(texts) else None
    return None


def messages(tree: ast.Module) -> Iterator[tuple[int, str]]:
    """Line (1-based) and text of each message in `raise Error("…")` and `super().__init__("…")`."""
    for node in ast.walk(tree):
        call = node.exc if isinstance(node, ast.Raise) else node
        if not isinstance(call, ast.Call):
            continue
        if node is call and not ast.unparse(call.func).endswith("super().__init__"):
            continue
        texts = [text for argument in call.args if (text := text_of(argument)) and " " in text]
        yield from ((call.lineno, text) for text in texts)


def main(words: str = "") -> None:
    """Print the messages of all modules, in the order of their files."""
    for path in sorted(SOURCE.rglob("*.py")):
        found = sorted(messages(ast.parse(path.read_text(encoding="utf-8"))))
        for line, text in found:
            if words.lower() in text.lower():
                print(f"{path.relative_to(SOURCE)}:{line}  {text}")


if __name__ == "__main__":
    main(" ".join(sys.argv[1:]))
