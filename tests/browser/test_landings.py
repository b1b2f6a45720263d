"""Landings as they are predicted from measured geometry, and as Chromium makes them."""

from urllib.parse import quote

import httpx2
import pytest

from screens import bring, bring_demo
from sites import change

pytestmark = pytest.mark.browser

WINDOWS = [(390, 844), (820, 1180), (1280, 720)]
ASK = """(to) => new Promise((done) => {
  addEventListener("message", function hear(event) {
    if (event.data?.from !== "signpost-walk" || !["measured", "tried"].includes(event.data.kind)) return;
    removeEventListener("message", hear);
    done(event.data);
  });
  postMessage({ to: "signpost-walk", id: 1, ...to }, "*");
})"""
FOLLOW = """async (jumps) => {
  const ends = [];
  const { mark } = document.querySelector("script[data-mark]").dataset;
  document.documentElement.style.setProperty("scroll-behavior", "auto", "important");
  for (const [start, begin] of jumps) {
    document.querySelectorAll("details[open]").forEach((fold) => (fold.open = false)); // as the page opens
    scrollTo(0, begin);
    document.querySelector(`[data-${mark}-place="${start}"]`).click();
    await new Promise((done) => requestAnimationFrame(done));
    ends.push(scrollY);
  }
  return ends;
}"""
TALL = "<p style='height:{}px;margin:0'>x</p>"


def sections(names, height=900, tag="h2"):
    return "".join(f"<{tag} id={name}>Section {name}</{tag}>{TALL.format(height)}" for name in names)


def links(*names):
    return "<p>" + " ".join(f"<a href='#{name}'>to {name}</a>" for name in names) + "</p>"


PLAIN = "<!DOCTYPE html><title>T</title><style>{}</style><body><main><h1>T</h1>{}</main>"
PAGES = {
    "plain.html": PLAIN.format("", links("a", "b", "c", "TOP", "") + sections("abc")),
    "margins.html": PLAIN.format(
        "h2{scroll-margin-top:37px} html{scroll-padding-top:10%} #b{scroll-margin-top:-20px}",
        links("a", "b", "c") + sections("abc"),
    ),
    "calc.html": PLAIN.format("html{scroll-padding-top:calc(5% + 12px)}", links("a", "b") + sections("ab")),
    "fixed.html": PLAIN.format(
        "nav{position:fixed;top:0;left:0;right:0;height:50px;background:#ccc} body{padding-top:60px}",
        "<nav><a href=#b>b</a> <a id=held href=#held>held</a></nav>" + links("a", "b", "held") + sections("ab", 2000),
    ),
    "sticky.html": PLAIN.format(
        "header{position:sticky;top:0;height:44px;background:#ccc} .low{position:sticky;bottom:0;background:#eee}",
        "<header>bar</header>" + links("a", "b", "c") + sections("abc", 1500) + "<p class=low>low</p>",
    ),
    "within.html": PLAIN.format(
        ".bar{position:sticky;top:0;height:60px;background:#ccc}",
        links("a", "b", "c")
        + f"<div><p class=bar>in its own box only</p>{sections('a', 300)}</div><div>{sections('bc')}</div>",
    ),
    "folded.html": PLAIN.format(
        "",
        links("a", "in", "deep", "b")
        + sections("a", 300)
        + f"<details><summary>More</summary>{sections(['in'], 400)}<details><summary id=s>Deep</summary>{TALL.format(200)}"
        + "<p id=deep>deep</p></details></details>"
        + sections("b", 1200),
    ),
    "anchors.html": PLAIN.format(
        "p{line-height:2}",
        links("old", "both", "caf%C3%A9", "row", "gone")
        + TALL.format(700)
        + "<p>words <a name=old></a>and more</p>"
        + TALL.format(900)
        + f"<h2><a name=both>Both</a></h2>{TALL.format(500)}<p id='café'>c</p><table><tr><td>1<tr id=row><td>2</table>"
        + TALL.format(1500),
    ),
    "quirks.html": "<HTML><TITLE>T</TITLE><BODY><H1>T</H1>"
    + links("a", "b")
    + "".join(f"<A NAME={name}></A><H2>{name}</H2>{TALL.format(800)}" for name in "ab"),
    "pictures.html": PLAIN.format(
        "",
        links("a", "b")
        + "<img src=tall.svg loading=lazy alt=t>" * 3
        + sections("a")
        + "<img src=tall.svg alt=t>"
        + sections("b"),
    ),
    "odd.html": PLAIN.format(
        ".box{height:200px;overflow:auto} #hid{display:none} html{scroll-behavior:smooth}",
        links("boxed", "hid", "a")
        + f"<div class=box>{TALL.format(500)}<p id=boxed>b</p></div><p id=hid>h</p>"
        + sections("a", 1500),
    ),
    "other.html": PLAIN.format("", "<p><a href='plain.html#b'>b</a> <a href='fixed.html#b'>fixed</a></p>"),
}
SVG = b'<svg xmlns="http://www.w3.org/2000/svg" width="90" height="310"/>'


def measure(screen, served, site, path, width, height):
    """Measure a page at a window's size, as the desk does; return what is known of it then."""
    screen.set_viewport_size({"width": width, "height": height})
    screen.goto(f"{served}/preview/{site.rpartition('/')[2]}/{quote(path)}", wait_until="load")
    window = {"width": width, "height": height}
    api = f"{served}/api/sites/{site.rpartition('/')[2]}"
    digest = httpx2.get(f"{api}/measure", params={"path": path, **window}).json()["digest"]
    geometry = screen.evaluate(ASK, {"kind": "measure"})["geometry"]
    body = {"digest": digest, "window": window, **geometry}
    answer = httpx2.put(f"{api}/measure", params={"path": path}, json=body)
    assert answer.status_code == 204, answer.text
    found = httpx2.get(f"{api}/measure", params={"path": path, **window}).json()
    assert found["state"] == "measured"
    return found


def compare(screen, found):
    """Follow each jump link of the page on the screen; return how many landings were compared."""
    known = [
        landing
        for landing in found["landings"]
        if landing["scroll"] is not None and landing["to_page"] == found["path"] and landing["verdict"] != "unseen"
    ]
    ends = screen.evaluate(FOLLOW, [[landing["start"], landing["begin"]] for landing in known])
    for landing, end in zip(known, ends, strict=True):
        assert abs(end - landing["scroll"]) <= 1, (found["path"], found["window"], landing, end)
    return len(known)


@pytest.mark.parametrize(("width", "height"), WINDOWS, ids=str)
def test_landings_on_composed_pages_are_those_of_chromium(screen, served, width, height):
    site = bring(served, {name: text.encode() for name, text in PAGES.items()} | {"tall.svg": SVG})
    counts = {}
    verdicts = {}
    for path in PAGES:
        found = measure(screen, served, site, path, width, height)
        counts[path] = compare(screen, found)
        verdicts[path] = {landing["fragment"]: landing["verdict"] for landing in found["landings"]}
    assert sum(counts.values()) == 34, counts
    assert verdicts["plain.html"]["TOP"] == verdicts["plain.html"][""] == "lands"
    assert verdicts["fixed.html"]["b"] == verdicts["sticky.html"]["b"] == "covered"
    assert verdicts["fixed.html"]["held"] == "in-view"
    assert verdicts["within.html"]["b"] == "lands"
    assert verdicts["anchors.html"]["gone"] == "nowhere"
    assert verdicts["odd.html"] == {"boxed": "unsure", "hid": "unseen", "a": verdicts["odd.html"]["a"]}


@pytest.mark.parametrize(("width", "height"), WINDOWS[:1], ids=str)
def test_landings_on_the_demo_pages_are_those_of_chromium(screen, served, width, height):
    site = bring_demo(served)
    api = f"{served}/api/sites/{site.rpartition('/')[2]}"
    with httpx2.Client(base_url=served) as client:
        for operation in ("contents", "back-to-top"):
            change(client, api, operation, "handbook.html")
    pages = [page["path"] for page in httpx2.get(f"{api}/pages").json()["pages"]]
    compared = sum(compare(screen, measure(screen, served, site, path, width, height)) for path in pages)
    assert compared >= 60
    walk = httpx2.get(f"{api}/walk", params={"width": width, "height": height}).json()
    assert all(page["state"] == "measured" for page in walk["pages"])
    abroad = {
        (landing["to_page"], landing["fragment"]): landing
        for landing in walk["landings"]
        if landing["page"] != landing["to_page"] and landing["scroll"] is not None
    }
    assert len(abroad) >= 5
    for landing in abroad.values():
        address = f"{served}/preview/{site.rpartition('/')[2]}/{quote(landing['to_page'])}#{landing['fragment']}"
        screen.goto("about:blank")
        screen.goto(address, wait_until="load")
        screen.wait_for_function("document.readyState === 'complete'")
        assert abs(screen.evaluate("scrollY") - landing["scroll"]) <= 1, landing
