"""The law of repair: what one press writes for one mistake brings back what was there."""

import os
from collections import Counter
from random import Random

import pytest

from repairs import KINDS, findings_of, repair
from signpost.desk.demo import demo_files

LONG = bool(os.environ.get("SIGNPOST_LONG"))
#: Kinds for which nothing can be known surely, so that something else than a press is right.
NEVER_PRESSED = {
    "no quotation mark",
    "a # in an identifier",
    "a space in an identifier",
    "no </blockquote>",
    "no </div>",
    "no end tag of marked words",
    "no end of a comment",
}
TIMES = 40 if LONG else 1
WORDS = "coal steam boiler the signal and gauge of brass lamps yard points".split()


def page(random: Random) -> str:
    """A page in a tidy hand."""

    def words(least=2, most=7):
        return " ".join(random.choices(WORDS, k=random.randint(least, most)))

    def line():
        marked = random.choice(
            [
                "<b>{}</b>",
                "<em>{}</em>",
                "<code>{}</code>",
                '<a href="#boiler-care">{}</a>',
                "<strong>{}</strong>",
                "<b><code>{}</code></b>",
                '<a href="mailto:office@example.org">{}</a>',
                '<a href="https://www.example.com/" target="_blank" rel="noopener">{}</a>',
                "{}",
            ]
        )
        return f"{words()} {marked.format(words(1, 3))} {words()}.{random.choice(['', f' {words().capitalize()}.'])}"

    def items(tag, indent):
        return "\n".join(
            f"{indent}<{tag}>{random.choice([line(), words()])}</{tag}>" for _ in range(random.randint(2, 4))
        )

    def nested():
        inner = f"    <ul>\n{items('li', '      ')}\n    </ul>\n  "
        return f"<ul>\n{items('li', '  ')}\n  <li>{words()}\n{inner}</li>\n{items('li', '  ')}\n</ul>"

    def table():
        rows = "\n".join(f"  <tr><td>{words(1, 2)}</td><td>{line()}</td></tr>" for _ in range(3))
        return f"<table>\n  <tr><th>{words(1, 1)}</th><th>{words(1, 1)}</th></tr>\n{rows}\n</table>"

    makers = [
        lambda: f"<p>{line()}</p>",
        lambda: f"<p>{line()}\n{line()}</p>",
        lambda: f"<ol>\n{items('li', '  ')}\n</ol>",
        nested,
        table,
        lambda: (
            f"<dl>\n  <dt>{words(1, 2)}</dt>\n  <dd>{line()}</dd>\n  <dt>{words(1, 2)}</dt>\n  <dd>{line()}</dd>\n</dl>"
        ),
        lambda: f"<pre>{words()}\n  {words()}</pre>",
        lambda: f"<blockquote>\n  <p>{line()}</p>\n</blockquote>",
        lambda: f'<div class="note">\n  <p>{line()}</p>\n</div>',
        lambda: (
            f'<ul>\n  <li><a href="#signals">{words(1, 4)}</a></li>\n'
            f'  <li><a href="https://www.example.org/">{words(1, 4)}</a></li>\n</ul>'
        ),
    ]
    sections = []
    for name in ("signals", "boiler-care", "water-glass"):
        sections += [f"<!-- {words()} -->", f'<p><a name="{name}-old"></a>{words()}</p>']
        sections.append(f'<h2 id="{name}">{words(1, 4).capitalize()}</h2>')
        sections += [random.choice(makers)() for _ in range(random.randint(2, 4))]
    body = "\n".join(sections)
    return (
        '<!DOCTYPE html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<title>Page</title>\n</head>\n<body>\n'
        f"<h1>Page</h1>\n{body}\n</body>\n</html>\n"
    )


@pytest.mark.parametrize("kind", KINDS)
def test_a_press_brings_back_what_was_there(kind):
    counts: Counter[str] = Counter()
    for seed in range(10 * TIMES):
        random = Random(seed)
        text = page(random)
        assert not findings_of(text)
        counts.update(repair(text, KINDS[kind], random, Counter()))
    assert counts["tried"] > TIMES / 2
    assert counts["WORSE"] == 0, counts
    assert kind in NEVER_PRESSED or "twice" in kind or counts["restored"], counts
    assert counts["found"] == counts["tried"] - counts["same"], counts


@pytest.mark.parametrize("kind", KINDS)
def test_on_the_demo_s_pages_no_press_makes_it_worse(kind):
    counts: Counter[str] = Counter()
    for path, data in demo_files().items():
        if not path.endswith(".html"):
            continue
        try:
            text = data.decode()
        except UnicodeDecodeError:
            continue
        before = Counter(one.rule.code for one in findings_of(text))
        if before or "\r" in text or len(text) > 60_000:
            continue
        for seed in range(TIMES):
            counts.update(repair(text, KINDS[kind], Random(seed), before))
    assert counts["WORSE"] == 0, counts
