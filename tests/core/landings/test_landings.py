"""Where the window is after a jump, and what is seen there."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pages import page_of
from signpost.core.addresses.fragments import TOP
from signpost.core.findings.landings import find_bad_landings, find_misfits
from signpost.core.landings.fixes import find_landing_fixes
from signpost.core.landings.geometry import Bar, Box, Geometry, Hold, Rect, Size, Sized, Window
from signpost.core.landings.landings import JumpLanding, Verdict, find_landing, find_scroll

WINDOW = Window(400, 500)
BAR = Bar("nav", Rect(0, 0, 400, 60), sticky=False)


def geometry(height=3000.0, *, padding=0.0, bars=(), snaps=False, boxes=()):
    return Geometry(WINDOW, 500.0, height, padding, snaps, tuple(boxes), tuple(bars))


def box(top, **more):
    return Box(0, top, top + 30, words=Rect(10, top + 4, 200, top + 24), **more)


LINK = Box(1, 100, 120)
FAR = Box(1, 1500, 1520)


@pytest.mark.parametrize(
    ("page", "target", "verdict", "scroll", "short"),
    [
        pytest.param(geometry(), box(1000), Verdict.LANDS, 1000, 0, id="plain"),
        pytest.param(geometry(), box(1000, margin=40), Verdict.LANDS, 960, 0, id="scroll margin"),
        pytest.param(geometry(), box(1000, margin=-40), Verdict.LANDS, 1040, 0, id="negative margin"),
        pytest.param(geometry(padding=25), box(1000, margin=40), Verdict.LANDS, 935, 0, id="margin and padding"),
        pytest.param(geometry(), box(20, margin=40), Verdict.LANDS, 0, 0, id="above the top"),
        pytest.param(geometry(), box(2500), Verdict.LANDS, 2500, 0, id="just comes up"),
        pytest.param(geometry(), box(2501), Verdict.LANDS, 2500, 0, id="a pixel is no miss"),
        pytest.param(geometry(), box(2900), Verdict.SHORT, 2500, 400, id="last section"),
        pytest.param(geometry(padding=60), box(2900), Verdict.SHORT, 2500, 340, id="padding asks for less"),
        pytest.param(geometry(400), box(300), Verdict.IN_VIEW, 0, 300, id="a page lower than the window"),
        pytest.param(geometry(), box(1000, height=4000.0), Verdict.LANDS, 1000, 0, id="folded"),
        pytest.param(geometry(1000), box(900, height=1600.0), Verdict.LANDS, 900, 0, id="unfolded, it comes up"),
        pytest.param(geometry(bars=[BAR]), box(1000), Verdict.COVERED, 1000, 0, id="fixed bar"),
        pytest.param(geometry(padding=60, bars=[BAR]), box(1000), Verdict.LANDS, 940, 0, id="room for the bar"),
        pytest.param(geometry(bars=[BAR]), box(2900), Verdict.SHORT, 2500, 400, id="too low for the bar"),
        pytest.param(geometry(), TOP, Verdict.LANDS, 0, 0, id="top"),
        pytest.param(geometry(), None, Verdict.NOWHERE, None, 0, id="nowhere"),
        pytest.param(geometry(), box(0, hold=Hold.HIDDEN), Verdict.UNSEEN, 0, 0, id="hidden"),
        pytest.param(geometry(), box(0, hold=Hold.FIXED), Verdict.IN_VIEW, 0, 0, id="fixed target"),
        pytest.param(geometry(), box(900, hold=Hold.BOXED), Verdict.UNSURE, None, 0, id="in a box that scrolls"),
        pytest.param(geometry(), box(900, hold=Hold.STICKY), Verdict.UNSURE, None, 0, id="sticky target"),
        pytest.param(geometry(snaps=True), box(900), Verdict.UNSURE, None, 0, id="page that snaps"),
    ],
)
def test_the_landing_formula(page, target, verdict, scroll, short):
    found = find_landing(page, target, LINK)
    assert (found.verdict, found.scroll, found.short) == (verdict, scroll, short)


@pytest.mark.parametrize(
    ("link", "begin", "seen", "verdict"),
    [
        pytest.param(LINK, 0, False, Verdict.SHORT, id="from the top"),
        pytest.param(Box(1, 2600, 2620), 2360, True, Verdict.IN_VIEW, id="target below the link, in sight"),
        pytest.param(FAR, 1260, False, Verdict.SHORT, id="from the middle"),
        pytest.param(Box(1, 2980, 2999), 2500, True, Verdict.IN_VIEW, id="from the end"),
        pytest.param(
            Box(1, 2980, 2999, hold=Hold.FIXED), 0, False, Verdict.SHORT, id="link that stays in the window"
        ),
        pytest.param(None, 0, False, Verdict.SHORT, id="from another page"),
    ],
)
def test_where_the_reader_stands_before(link, begin, seen, verdict):
    found = find_landing(geometry(), box(2800), link)
    assert (found.begin, found.was_seen, found.verdict) == (begin, seen, verdict)


def test_what_lands_may_have_been_in_view():
    found = find_landing(geometry(), box(300), LINK)
    assert (found.verdict, found.was_seen) == (Verdict.LANDS, True)
    covered = find_landing(geometry(bars=[replace(BAR, rect=Rect(0, 290, 400, 350))]), box(300), LINK)
    assert not covered.was_seen


STICKY = Bar("h", Rect(0, 100, 400, 150), sticky=True, stick_top=0, ceiling=100, floor=3000)


@pytest.mark.parametrize(
    ("bar", "scroll", "top"),
    [
        pytest.param(STICKY, 0, 100, id="not yet"),
        pytest.param(STICKY, 90, 10, id="about to"),
        pytest.param(STICKY, 900, 0, id="sticks"),
        pytest.param(replace(STICKY, stick_top=12), 900, 12, id="with a distance"),
        pytest.param(replace(STICKY, floor=920), 900, -30, id="pushed out by its box's end"),
        pytest.param(replace(STICKY, floor=600), 900, -350, id="gone with its box"),
        pytest.param(replace(STICKY, stick_top=None), 900, -800, id="no distance: it scrolls"),
        pytest.param(
            replace(STICKY, rect=Rect(0, 2000, 400, 2050), stick_top=None, stick_bottom=0), 0, 450, id="at the bottom"
        ),
        pytest.param(
            replace(STICKY, rect=Rect(0, 2000, 400, 2050), stick_top=None, stick_bottom=0, ceiling=1900),
            0,
            1900,
            id="not above its box",
        ),
        pytest.param(
            replace(STICKY, rect=Rect(0, 2000, 400, 2050), stick_top=None, stick_bottom=0),
            1900,
            100,
            id="in its place",
        ),
        pytest.param(BAR, 900, 0, id="fixed"),
    ],
)
def test_where_a_bar_stands(bar, scroll, top):
    assert bar.at(scroll, 500)[0] == top


@pytest.mark.parametrize(
    ("bar", "covered"),
    [
        pytest.param(BAR, 20, id="over the whole line"),
        pytest.param(replace(BAR, rect=Rect(0, 0, 400, 14)), 10, id="over half of it"),
        pytest.param(replace(BAR, rect=Rect(0, 0, 400, 5)), 0, id="over the space above the words"),
        pytest.param(replace(BAR, rect=Rect(250, 0, 400, 400)), 0, id="beside the words"),
        pytest.param(replace(STICKY, floor=900), 0, id="gone with its box"),
        pytest.param(STICKY, 20, id="sticky"),
    ],
)
def test_what_a_bar_covers(bar, covered):
    found = find_landing(geometry(bars=[bar]), box(1000), LINK)
    assert found.covered == covered
    assert found.verdict is (Verdict.COVERED if covered else Verdict.LANDS)


def test_the_bar_that_covers_most_is_named():
    found = find_landing(
        geometry(bars=[replace(BAR, rect=Rect(0, 0, 400, 14)), replace(BAR, label="div#b")]), box(1000)
    )
    assert (found.bar, found.bar_bottom) == ("div#b", 60)


lengths = st.floats(0, 5000, allow_nan=False)


@given(
    height=st.floats(500, 5000),
    top=lengths,
    margin=st.floats(-200, 200),
    padding=st.floats(0, 200),
    bar=st.floats(0, 300),
)
def test_landings_hold_together(height, top, margin, padding, bar):
    page = geometry(height, padding=padding, bars=[replace(BAR, rect=Rect(0, 0, 400, bar))])
    target = box(top, margin=margin)
    scroll = find_scroll(page, target)
    found = find_landing(page, target, LINK)
    assert 0 <= scroll <= page.limit()
    assert found.scroll == scroll
    if found.verdict in (Verdict.LANDS, Verdict.SHORT):
        assert found.covered == 0
    if found.verdict is Verdict.SHORT:
        longer = replace(page, height=page.height + found.short)
        assert find_landing(longer, target, LINK).verdict in (Verdict.LANDS, Verdict.COVERED)
    if found.verdict is Verdict.COVERED and not found.short and margin >= 0:
        roomy = replace(page, padding=padding + found.bar_bottom)
        mended = find_landing(roomy, target, LINK)
        assert mended.covered == 0 or find_scroll(roomy, target) == 0


@pytest.mark.parametrize(
    ("landings", "room", "below"),
    [
        ([], None, None),
        ([JumpLanding(Verdict.LANDS)], None, None),
        ([JumpLanding(Verdict.COVERED, bar_bottom=56)], 4.0, None),
        ([JumpLanding(Verdict.COVERED, bar_bottom=57), JumpLanding(Verdict.COVERED, bar_bottom=20)], 4.5, None),
        ([JumpLanding(Verdict.SHORT, short=250), JumpLanding(Verdict.SHORT, short=100)], None, 50.0),
        ([JumpLanding(Verdict.COVERED, short=100, bar_bottom=24)], 2.0, 20.0),
        ([JumpLanding(Verdict.SHORT, short=900)], None, 100.0),
        ([JumpLanding(Verdict.IN_VIEW, short=100)], None, None),
    ],
)
def test_cures_are_as_long_as_it_takes(landings, room, below):
    found = find_landing_fixes((landing, 500.0) for landing in landings)
    assert (found.room, found.below) == (room, below)


def test_which_verdicts_are_bad():
    bad = {verdict for verdict in Verdict if JumpLanding(verdict).is_bad}
    assert bad == {Verdict.SHORT, Verdict.COVERED, Verdict.NOWHERE, Verdict.UNSEEN}


def test_bad_landings_are_findings_with_their_place():
    page = page_of("<main>\n<a href=#a>to a</a> <a href=#b>to b</a> <a href=#c>to c</a><h2 id=a>A</h2></main>")
    verdicts = [
        JumpLanding(Verdict.COVERED, covered=12, bar="nav"),
        JumpLanding(Verdict.SHORT, short=90),
        JumpLanding(Verdict.LANDS),
    ]
    covered, short = find_bad_landings(page, zip(page.links, verdicts, strict=True))
    assert (covered.rule.code, covered.place.line, covered.span.of(page.text)) == (
        "landing-covered",
        2,
        "<a href=#a>",
    )
    assert "12 pixels of its first line under nav" in covered.message
    assert (short.rule.code, short.rule.severity) == ("landing-short", "advice")
    assert "“to b” lands 90 pixels below" in short.message


def test_bad_landings_of_one_cause_are_one_finding():
    page = page_of(
        "<main>\n" + "".join(f"<a href=#s{n}>to {n}</a> <h2 id=s{n}>S {n}</h2>\n" for n in range(4)) + "</main>"
    )
    verdicts = [
        JumpLanding(Verdict.COVERED, covered=12, bar="nav"),
        JumpLanding(Verdict.COVERED, covered=40, bar="nav"),
        JumpLanding(Verdict.COVERED, covered=5, bar="header"),
        JumpLanding(Verdict.SHORT, short=90),
    ]
    found = find_bad_landings(page, zip(page.links, verdicts, strict=True))
    assert [(one.rule.code, one.place.line) for one in found] == [
        ("landing-covered", 2),
        ("landing-covered", 4),
        ("landing-short", 5),
    ]
    assert "nav covers 2 landings, with up to 40 pixels" in found[0].message


@pytest.mark.parametrize(
    ("height", "padding", "reach"),
    [(2000, 0, 1500), (2000, 80, 1580), (500, 80, None), (300, 0, None)],
)
def test_the_reach_of_a_page_allows_for_its_scroll_padding(height, padding, reach):
    found = geometry(height=height, padding=padding)
    assert found.reach == reach
    if reach is not None:
        at, below = box(reach), box(reach + 5)
        assert find_landing(found, at).short == 0
        assert find_landing(found, below).short == 5


def test_a_link_in_the_line_it_leads_to_is_no_jump():
    line = box(2900)
    assert find_landing(geometry(), line, Box(1, 2904, 2924)).verdict is Verdict.LANDS
    assert find_landing(geometry(), line, Box(1, 2850, 2870)).verdict is Verdict.IN_VIEW


PICTURE = Size(0, Sized.PICTURE, 300, 200, 4000, 3000)


@pytest.mark.parametrize(
    ("size", "code"),
    [
        pytest.param(PICTURE, "picture-too-large", id="a photograph as the camera made it"),
        pytest.param(replace(PICTURE, own_width=600, own_height=400), None, id="made for dense screens"),
        pytest.param(replace(PICTURE, width=40, height=30, own_width=200, own_height=150), None, id="a small icon"),
        pytest.param(replace(PICTURE, own_height=300), None, id="cropped by its box"),
        pytest.param(Size(0, Sized.SAMPLE, 400, 90, 655), "sample-too-wide", id="sample"),
        pytest.param(Size(0, Sized.SIDE, 200, 500, 430), "side-over-text", id="wider than its margin"),
        pytest.param(Size(0, Sized.SIDE, 200, 500, 200, over=80), "side-over-text", id="over the text"),
    ],
)
def test_what_does_not_fit(size, code):
    page = page_of("<p>x", path="p.html")
    assert [found.rule.code for found in find_misfits(page, replace(geometry(), sizes=(size,)))] == [code] * bool(
        code
    )
