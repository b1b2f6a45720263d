"""Estimated lengths."""

import pytest

from pages import page_of
from signpost.core.page.lengths import estimate_page, estimate_stretches
from signpost.core.page.outline import read_outline


@pytest.mark.parametrize("markup", ["", "<p>lead only</p>", "<h1>a</h1>x<h3>b</h3>y z<h2>c</h2>", "<h2>a</h2>" * 9])
def test_estimated_stretches_follow_one_another_and_fill_the_page(markup):
    page = page_of(markup)
    outline = read_outline(page)
    lead, *stretches = estimate_stretches(page, outline)
    assert lead.top == 0
    tops = [stretch.top for stretch in stretches]
    assert tops == sorted(tops)
    assert not tops or tops[0] == lead.height
    bottom = max([lead.height, *(stretch.top + stretch.height for stretch in stretches)])
    assert bottom == pytest.approx(estimate_page(page))
    for section, stretch in zip(outline.flat(), stretches, strict=True):
        for inner in section.sections:
            assert stretches[inner.index].top + stretches[inner.index].height <= stretch.top + stretch.height + 0.01
