"""Findings on the screen: fixed by a press, a choice, all of a rule; set aside; in the source; on the site's desk."""

import pytest
from playwright.sync_api import expect

from screens import apply, bring, faults, open_page

pytestmark = pytest.mark.browser

PAGE = (
    b"<!DOCTYPE html>\n<html lang=en>\n<title>T</title>\n<meta name=viewport content=x>\n<h1 id=boilers>T</h1>\n"
    b"<p>1 < 2 < 3</p>\n<p><a href='boilers'>up</a> <a href='#boilrz'>b</a> <a href=index.html>index</a></p>\n"
)
INDEX = b"<html lang=en><title>I</title><h1>I</h1><p><a href=page.html>p</a> 4 < 5 </span>"


def group(screen, name):
    return screen.get_by_role("region", name=name)


def test_findings_are_fixed_one_by_one_by_a_choice_and_all_of_a_rule(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE, "index.html": INDEX}), "page.html", "Findings")
    expect(screen.locator("[data-pane=ledger]")).to_contain_text("4 findings of 3 kinds.")
    assert faults(screen, ["[data-pane=ledger]"]) == []
    group(screen, "Bare < in the text").get_by_role("button", name="Fix 2").click()
    expect(screen.locator(".tray")).to_contain_text("Fixed: Bare < in the text")
    apply(screen)
    expect(group(screen, "Bare < in the text")).to_have_count(0)
    group(screen, "Jump link without #").get_by_role("button", name="Fix", exact=True).click()
    screen.get_by_role("button", name="Show the diff").click()
    expect(screen.locator(".diff")).to_contain_text("<a href='#boilers'>up</a>")
    apply(screen)
    group(screen, "Jump link leads nowhere").get_by_role("button", name="Link to “#boilers”").click()
    apply(screen)
    expect(group(screen, "Jump link leads nowhere")).to_have_count(0)
    expect(screen.locator("[data-pane=ledger] .error")).to_have_count(0)


def test_a_finding_is_set_aside_with_a_reason_and_taken_back(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE, "index.html": INDEX}), "page.html", "Findings")
    row = group(screen, "Jump link leads nowhere")
    row.get_by_role("button", name="Set aside…").click()
    screen.get_by_label("Why").fill("it comes next week")
    screen.get_by_role("button", name="Set aside", exact=True).click()
    expect(row).to_have_count(0)
    expect(screen.locator(".tray")).to_contain_text("Set aside: Jump link leads nowhere")
    screen.get_by_role("button", name="Rules and set aside…").click()
    drawer = screen.get_by_role("dialog", name="How pages are checked")
    drawer.get_by_role("tab", name="Set aside (1)").click()
    expect(drawer).to_contain_text("it comes next week")
    drawer.get_by_role("button", name="Take back").click()
    expect(drawer.get_by_role("tab", name="Set aside (0)")).to_be_visible()

    # a rule switched off, and the site's own file written
    drawer.get_by_role("tab", name="Rules").click()
    drawer.get_by_label("Find a rule").fill("less-than-raw")
    drawer.locator(".el-switch").first.click()
    assert faults(screen, [".el-drawer"]) == []
    drawer.get_by_role("button", name="Save").click()
    expect(drawer.get_by_role("button", name="Write signpost.toml…")).to_be_enabled()
    drawer.get_by_role("button", name="Write signpost.toml…").click()
    expect(screen.locator(".tray")).to_contain_text("Write signpost.toml")
    apply(screen)
    expect(group(screen, "Bare < in the text")).to_have_count(0)
    expect(row).to_be_visible()


def test_a_finding_is_fixed_in_the_source(screen, served):
    open_page(screen, bring(served, {"page.html": PAGE, "index.html": INDEX}), "page.html", "Findings")
    screen.get_by_text("Source", exact=True).click()
    screen.get_by_text("Jump link without #").click()
    screen.locator(".cm-lintRange-error").first.hover()
    tooltip = screen.locator(".cm-tooltip-lint")
    expect(tooltip).to_contain_text("without “#” in front it means a file")
    tooltip.get_by_role("button", name="Fix").click()
    apply(screen)
    expect(group(screen, "Jump link without #")).to_have_count(0)


def test_findings_are_marked_on_the_page_and_fixed_there(screen, served):
    tall = PAGE.replace(b"<p><a", b"<p style='margin-top: 3000px'><a")  # so that no jump leads to what is in view
    open_page(screen, bring(served, {"page.html": tall, "index.html": INDEX}), "page.html", "Findings")
    inner = screen.frame_locator("iframe[name=signpost-page]")
    link = inner.get_by_role("link", name="up")
    expect(link).to_have_css("outline-style", "dashed")
    expect(inner.get_by_role("link", name="index")).to_have_css("outline-style", "none")
    link.click()
    here = screen.get_by_role("region", name="Findings at this place")
    expect(here).to_contain_text("Jump link without #")
    assert faults(screen, [".findings-here"]) == []
    here.get_by_role("button", name="Fix", exact=True).click()
    apply(screen)
    expect(here).to_have_count(0)
    expect(link).to_have_css("outline-style", "none")
    screen.get_by_role("tab", name="Headings").click()
    expect(inner.get_by_role("link", name="b", exact=True)).to_have_css("outline-style", "none")


def test_what_does_not_fit_is_set_aside_where_it_is(screen, served):
    wide = PAGE.replace(b"<p>1", b"<pre style='background: red'>" + b"x" * 400 + b"</pre><p>1")
    open_page(screen, bring(served, {"page.html": wide, "index.html": INDEX}), "page.html", "Findings")
    row = group(screen, "Line of a sample runs out of its box")
    row.get_by_role("button", name="Set aside…").click()
    screen.get_by_role("button", name="Set aside", exact=True).click()
    expect(row).to_have_count(0)
    screen.get_by_role("button", name="Rules and set aside…").click()
    expect(screen.get_by_role("tab", name="Set aside (1)")).to_be_visible()


def test_findings_of_the_whole_site_are_fixed_on_its_desk(screen, served):
    site = bring(served, {"page.html": PAGE, "index.html": INDEX})
    screen.goto(site)
    bare = group(screen, "Bare < in the text")
    bare.get_by_role("button", name="Fix 3").click()
    expect(screen.locator(".tray")).to_contain_text("3 edits in 2 files")
    apply(screen)
    expect(bare).to_have_count(0)
    screen.locator(".wrong-list .head").get_by_role("button", name="Fix 3").click()  # all that need no question
    apply(screen)
    expect(screen.locator(".tray")).to_contain_text("Applied")
    expect(group(screen, "End tag left over")).to_have_count(0)
    assert faults(screen, ["main"]) == []


def test_findings_of_one_cause_are_one_line_and_advice_is_folded(screen, served):
    head = "<!DOCTYPE html><html lang=en><title>{0}</title><meta name=viewport content=x><h1>{0}</h1>"
    page = (
        head
        + "<nav class=menu><a href=gone.html>Coal</a> <a href=p0.html>One</a> <a href=p1.html>Two</a></nav><p>1 < 2"
    )
    pages = {f"p{number}.html": page.format(f"Page {number}") for number in range(10)}
    pages["p0.html"] += "<p><a href=lost.html>Lost</a> <a href=lots/gone.html>g</a>"
    pages["lots/gone.html"] = head.format("Coal") + "<p><a href=../p0.html>p</a>"
    screen.goto(bring(served, {path: text.encode() for path, text in pages.items()}))
    missing = group(screen, "Link to a missing page")
    missing.get_by_role("button", name="Link to a missing page").click()
    expect(missing.get_by_role("listitem")).to_have_count(2)
    expect(missing.get_by_role("listitem").first).to_contain_text("gone.html")
    expect(missing.get_by_role("listitem").first).to_contain_text("10 on 10 pages")
    missing.get_by_role("button", name="gone.html 10 on 10 pages").click()
    expect(missing.locator(".findings li")).to_have_count(10)
    missing.get_by_text("By block").click()
    expect(missing.get_by_role("button", name="nav.menu 10 on 10 pages")).to_be_visible()
    assert faults(screen, [".wrong-list"]) == []
    missing.get_by_text("Each").click()
    expect(missing.locator(".findings li")).to_have_count(11)
    missing.get_by_text("By cause").click()
    bare = group(screen, "Bare < in the text")
    expect(bare).to_have_count(0)
    screen.get_by_role("button", name="Advice").first.click()
    expect(bare).to_be_visible()
    missing.get_by_role("listitem").first.get_by_role("button", name="Fix 10 by first choice").click()
    expect(screen.locator(".tray")).to_contain_text("10 edits in 10 files")
    apply(screen)
    expect(group(screen, "Link to a missing page")).to_contain_text("lost.html")
    expect(group(screen, "Link to a missing page")).not_to_contain_text("gone.html")
