"""Pages that mean harm, in the preview: nothing of theirs runs, nothing leaves, and the desk works beside them."""

import re
import socket
import threading
from urllib.parse import quote

import pytest
from playwright.sync_api import expect

from screens import RENDERED, bring, open_page

pytestmark = pytest.mark.browser

TALL = "<p style='height:900px;margin:0'>x</p>"
HEADINGS = f"<h2 id=a>Alpha</h2>{TALL}<h2 id=b>Beta</h2>{TALL}"
#: Everything that could make a browser ask another server for something; {} is that server.
REACHES = (
    """<!DOCTYPE html><html manifest="{0}/m"><head><title>T</title>
<base href="{0}/"><meta http-equiv=refresh content="0;url={0}/refresh">
<meta http-equiv="Content-Security-Policy" content="default-src *; script-src 'unsafe-inline' *; report-uri {0}/report">
<link rel=preconnect href="{0}"><link rel=dns-prefetch href="{0}"><link rel=prefetch href="{0}/p"><link rel=preload as=image href="{0}/q">
<link rel=stylesheet href="{0}/s.css"><link rel=icon href="{0}/i.ico"><link rel=modulepreload href="{0}/m.js"><link rel=prerender href="{0}/r">
<script src="{0}/x.js"></script><script type=module src="{0}/y.js"></script><script>fetch("{0}/f"); document.title = "RAN"</script>
<script type=speculationrules>{{"prefetch":[{{"source":"list","urls":["{0}/sr"]}}]}}</script>
<style>@import "{0}/i.css"; @font-face {{ font-family: F; src: url({0}/f.woff) }} body {{ font-family: F; background: url({0}/bg) }}
h2 {{ list-style-image: url({0}/l); cursor: url({0}/c), auto; border-image: url({0}/bi) 1 }} h2::before {{ content: url({0}/ct) }}</style></head>
<body background="{0}/b" onload="fetch('{0}/onload')"><h1>T</h1>
<img src="{0}/a.png" srcset="{0}/b.png 2x" onerror="fetch('{0}/err')"><img src=x onerror="new Image().src='{0}/err2'">
<picture><source srcset="{0}/c.png"><img src="{0}/d.png"></picture><video src="{0}/v" poster="{0}/po" autoplay></video><audio src="{0}/au" autoplay></audio>
<iframe src="{0}/if"></iframe><iframe srcdoc="<img src='{0}/sd'>"></iframe><object data="{0}/o"></object><embed src="{0}/e"><input type=image src="{0}/in">
<svg><image href="{0}/si"/><use href="{0}/us#x"/><script href="{0}/ss"/><a href="{0}/sa"><text>x</text></a><animate onbegin="fetch('{0}/ab')" attributeName=x dur=1s></svg>
<form id=f action="{0}/form" target=_top><input name=x><button autofocus onfocus="this.form.submit()">b</button></form>
<a id=ping href="#a" ping="{0}/ping">jump</a><a href="{0}/out" id=out>out</a><marquee onstart="fetch('{0}/mq')">m</marquee>
<table background="{0}/tb"><tr><td background="{0}/td">x</table><details ontoggle="fetch('{0}/tg')" open><summary>s</summary></details>
"""
    + HEADINGS
)
#: Elements that take the names of what our scripts use.
CLOBBERED = "".join(
    f"<img name={name} alt=''><form name={name}></form>"
    for name in (
        "querySelectorAll querySelector getElementById createElement createRange createTreeWalker addEventListener body head "
        "documentElement scrollingElement fonts images readyState baseURI URL currentScript forms location parent"
    ).split()
) + (
    "<form id=form><input name=style><input name=closest><input name=getAttribute><input name=hasAttribute><input name=parentElement>"
    "<input name=getBoundingClientRect><input name=getClientRects><input name=tagName><input name=id><input name=classList>"
    "<input name=scrollHeight><p><a id=inner href=#b>to b</a></p></form>"
)


class Listener:
    """A server that notes whoever connects to it."""

    def __init__(self):
        self.socket = socket.create_server(("127.0.0.1", 0))
        self.address = f"http://127.0.0.1:{self.socket.getsockname()[1]}"
        self.heard = []
        threading.Thread(target=self._listen, daemon=True).start()

    def _listen(self):
        while True:
            try:
                connection, _ = self.socket.accept()
            except OSError:
                return
            with connection:
                connection.settimeout(2)
                try:
                    self.heard.append(connection.recv(200))
                except OSError:
                    self.heard.append(b"")


@pytest.fixture
def listener():
    listener = Listener()
    yield listener
    listener.socket.close()


def jump(screen, name):
    """Follow a jump on the rendered page, and tell where its window is."""
    frame = screen.frame_locator(RENDERED)
    frame.locator(name).click()
    screen.wait_for_timeout(300)
    return frame.locator("h2").first.evaluate("() => scrollY")


def test_a_hostile_page_runs_nothing_and_reaches_nobody(screen, served, listener):
    site = bring(served, {"p.html": REACHES.format(listener.address).encode()})
    screen.goto(f"{site}/pages/p.html")
    frame = screen.frame_locator(RENDERED)
    expect(frame.locator("h2").first).to_be_visible()
    screen.wait_for_timeout(1500)
    assert listener.heard == []
    frame.locator("#ping").click()
    screen.wait_for_timeout(500)
    assert listener.heard == [], "ping"
    frame.locator("#out").click()
    screen.wait_for_timeout(1500)
    assert frame.locator("title").text_content() == "T"
    assert listener.heard == []
    assert screen.url.startswith(served)
    expect(screen.get_by_role("tab", name="Headings")).to_be_visible()


def test_the_preview_s_scripts_take_no_name_from_the_page(screen, served):
    page = f"<!DOCTYPE html><title>T</title><body>{CLOBBERED}<h1>T</h1><p><a id=first href=#a>a</a></p>{HEADINGS}"
    site = bring(served, {"p.html": page.encode()})
    open_page(screen, site, "p.html", "Landings")
    expect(screen.locator(".facts")).to_contain_text("measured")
    assert jump(screen, "#first") > 0


ODD = {
    "percent": (HEADINGS + "<h2 id='100%'>Hundred</h2>" + TALL, "#100%"),
    "bad-escape": (HEADINGS + "<h2 id='%zz'>Odd</h2>" + TALL, "#%zz"),
    "svg": (HEADINGS, "#b"),
}


@pytest.mark.parametrize("kind", ODD)
def test_odd_jumps_are_followed(screen, served, kind):
    body, href = ODD[kind]
    link = f"<a id=first href='{href}'>jump</a>"
    if kind == "svg":
        link = f"<svg width=200 height=40><a id=first href='{href}'><text y=20>jump</text></a></svg>"
    site = bring(served, {"p.html": f"<!DOCTYPE html><title>T</title><h1>T</h1><p>{link}</p>{body}".encode()})
    screen.goto(f"{site}/pages/p.html")
    assert jump(screen, "#first") > 0


@pytest.mark.parametrize(
    "page",
    [
        "<!DOCTYPE html><title>T</title><body><div <h1>T</h1>" + HEADINGS,
        "<!-- a --><?xml version='1.0'?>\n<!DOCTYPE html><meta http-equiv=Content-Security-Policy content=\"script-src 'none'; style-src 'none'\"><h1>T</h1>"
        + HEADINGS,
        "<h1>T</h1>" + HEADINGS + "<!-- never closed",
        "<title>never closed <h1>T</h1>",
    ],
    ids=["an unclosed tag", "a policy of its own", "an unclosed comment", "an unclosed title"],
)
def test_the_preview_s_scripts_run_whatever_comes_behind_them(screen, served, page):
    site = bring(served, {"p.html": page.encode()})
    screen.goto(f"{site}/pages/p.html")
    expect(screen.locator(".facts")).to_contain_text("measured")


def test_a_page_that_cannot_be_written_back_is_shown_like_any_other(screen, served):
    page = (
        b"<!DOCTYPE html><meta charset=utf-8><title>T</title><h1>T \xff</h1><p><a id=first href=#b>b</a></p>"
        + HEADINGS.encode()
    )
    site = bring(served, {"p.html": page})
    screen.goto(f"{site}/pages/p.html")
    expect(screen.locator(".facts")).to_contain_text("measured")
    assert jump(screen, "#first") > 0


def test_a_page_shows_in_standards_mode_as_without_us(screen, served):
    pages = {
        "s.html": "<!-- x --> <!DOCTYPE html><title>T</title><h1>T</h1>",
        "q.html": "<title>T</title><h1>T</h1>",
        "b.html": "\ufeff<!doctype html><h1>T</h1>",
    }
    site = bring(served, {path: text.encode() for path, text in pages.items()})
    preview = f"{served}/preview/{site.rpartition('/')[2]}"
    modes = {}
    for path in pages:
        screen.goto(f"{preview}/{quote(path)}")
        modes[path] = screen.evaluate("document.compatMode")
    assert modes == {"s.html": "CSS1Compat", "q.html": "BackCompat", "b.html": "CSS1Compat"}


def test_marks_are_others_each_time(screen, served):
    site = bring(served, {"p.html": b"<h1>T</h1><h2 data-signpost-section=7>A</h2>"})
    preview = f"{served}/preview/{site.rpartition('/')[2]}/p.html"
    marks = {
        re.search(r"data-(s[0-9a-f]{16})-section", screen.request.get(preview).text()).group(1) for _ in range(4)
    }
    assert len(marks) == 4
