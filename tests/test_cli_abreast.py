"""Many pages checked by several processes: what is printed is the same."""

from dataclasses import replace

import pytest

from pages import site_from
from signpost.cli import abreast
from signpost.core.findings import check_page
from signpost.core.findings.options import CheckOptions


@pytest.mark.parametrize("count", [abreast._MANY - 1, abreast._MANY, abreast._MANY + 31])
def test_pages_are_checked_alike_however_many_there_are(count, monkeypatch, capsys):
    monkeypatch.setattr(abreast.os, "sched_getaffinity", lambda _: {0, 1})
    monkeypatch.setattr(abreast.sys.stderr, "isatty", lambda: True)
    pages = {
        f"{at:03}.html": f"<title>{at % 7}</title><h1>x</h1></b><a href={at + 1:03}.html#no>y</a>"
        for at in range(count)
    }
    site, paths = site_from(pages), sorted(pages)
    options = CheckOptions()
    expected = [replace(one, edits=(), choices=()) for path in paths for one in check_page(site, path, options)]
    found = abreast.check_pages(site, paths, options)
    assert [replace(one, edits=(), choices=()) for one in found] == expected
    assert len(found) > count
    told = capsys.readouterr().err
    assert told.endswith(f"\r{count} of {count} pages checked\n") if count >= abreast._MANY else told == ""
