"""Each screen in each of its states; no serious fault for those who do not see or point."""

import threading

import pytest
from playwright.sync_api import expect

from screens import RENDERED, apply, bring, bring_demo, faults, open_page, show_bench
from signpost.desk import intake, working

pytestmark = pytest.mark.browser


def test_axe_finds_no_serious_fault(screen, served):
    site = bring_demo(served)
    screen.goto(served)
    expect(screen.get_by_role("link", name="Demo").first).to_be_visible()
    assert faults(screen) == []
    screen.get_by_role("button", name="Paste a source").click()
    expect(screen.get_by_role("dialog")).to_be_visible()
    assert faults(screen) == []

    screen.goto(site)
    expect(screen.get_by_role("link", name="handbook.html")).to_be_visible()
    assert faults(screen) == []

    open_page(screen, site, "stations.html")
    for stage in ("Headings", "Identifiers", "Contents", "Jump links", "Back to top", "Parts", "Findings"):
        screen.get_by_role("tab", name=stage).click()
        assert faults(screen) == [], stage
    show_bench(screen, "Source")
    expect(screen.locator(".cm-content")).to_contain_text("<title>")
    assert faults(screen) == []
    screen.get_by_role("tab", name="Identifiers").click()
    screen.get_by_role("button", name="Give identifiers").click()
    screen.get_by_role("button", name="Show the diff").click()
    expect(screen.locator(".diff")).to_be_visible()
    assert faults(screen) == []
    screen.get_by_role("button", name="Changes", exact=True).click()
    expect(screen.get_by_role("dialog", name="Changes")).to_be_visible()
    assert faults(screen) == []


def test_a_section_chosen_anywhere_is_chosen_everywhere(screen, served):
    open_page(screen, bring_demo(served), "handbook.html")
    frame = screen.frame_locator(RENDERED)
    expect(screen.locator("header").first).to_contain_text(", measured")  # the road moves once, when that is known

    screen.locator(".road text", has_text="Boiler care").click()
    expect(screen.locator("tr[aria-selected=true]")).to_contain_text("Boiler care")
    expect(frame.get_by_role("heading", name="Boiler care")).to_be_in_viewport()

    frame.get_by_role("heading", name="Lighting up").click()
    expect(screen.locator("tr[aria-selected=true]")).to_contain_text("Lighting up")
    expect(screen.locator(".road [role=option][aria-selected=true]")).to_have_attribute(
        "aria-label", "Lighting up, level 3, 234 words"
    )

    show_bench(screen, "Source")
    screen.get_by_role("rowheader", name="Washing out").click()
    expect(screen.locator(".cm-activeLine")).to_contain_text("Washing out")
    screen.locator(".cm-line", has_text="Take out the plugs").click()
    screen.keyboard.press("Control+End")
    expect(screen.locator("tr[aria-selected=true]")).to_contain_text("What changed in this handbook")


def test_what_is_typed_after_saving_is_kept_when_that_is_applied(screen, served):
    open_page(screen, bring_demo(served), "handbook.html")
    show_bench(screen, "Source")
    screen.locator(".cm-content").click()
    screen.keyboard.press("Control+Home")
    screen.keyboard.insert_text("<!-- one -->")
    screen.get_by_role("button", name="Show the edits").click()
    expect(screen.locator(".tray")).to_contain_text("Source edited by hand")
    screen.locator(".cm-content").focus()
    screen.keyboard.insert_text("<!-- two -->")
    screen.keyboard.press("Control+Enter")
    expect(screen.locator(".tray")).to_contain_text("Applied")
    expect(screen.locator(".cm-content")).to_contain_text("<!-- one --><!-- two -->")
    expect(screen.get_by_text("Not saved", exact=True)).to_be_visible()
    screen.keyboard.press("Control+s")
    expect(screen.get_by_text("Not saved", exact=True)).to_have_count(0)
    expect(screen.locator(".cm-content")).to_contain_text("<!-- one --><!-- two -->")


def test_typing_in_the_source_is_followed_shown_and_saved_as_a_change(screen, served):
    open_page(screen, bring_demo(served), "history.html")
    expect(screen.locator("main")).to_contain_text("No headings yet")
    screen.get_by_role("button", name="Open the source").click()
    line = screen.locator(".cm-line", has_text="<P><B>BEGINNINGS</B>")
    line.click()
    screen.keyboard.press("Home")
    screen.keyboard.press("Shift+End")
    screen.keyboard.insert_text("<H2>Beginnings</H2>")
    expect(screen.get_by_role("rowheader", name="Beginnings")).to_be_visible()
    expect(screen.locator(".cm-section[title=Beginnings]")).to_have_text("h2")
    expect(screen.get_by_text("Not saved", exact=True)).to_be_visible()
    show_bench(screen, "Both")
    expect(screen.frame_locator(RENDERED).get_by_role("heading", name="Beginnings")).to_be_visible()  # the draft
    screen.locator(".cm-content").focus()
    screen.keyboard.press("Control+s")
    expect(screen.locator(".tray")).to_contain_text("Applied")
    show_bench(screen, "Page")
    expect(screen.frame_locator(RENDERED).get_by_role("heading", name="Beginnings")).to_be_visible()
    screen.get_by_role("button", name="Changes", exact=True).click()
    expect(screen.get_by_role("dialog", name="Changes")).to_contain_text("Source edited by hand")


def test_the_editor_completes_shows_partners_and_replaces_within_a_selection(screen, served):
    site = bring(
        served, {"page.html": b"<h2 id=coal>Coal</h2>\n<p>tea\n<p>tea\n<p>tea</p>\n", "other.html": b"<p id=lamp>"}
    )
    open_page(screen, site, "page.html")
    show_bench(screen, "Source")
    expect(screen.locator(".cm-content")).to_contain_text("tea")
    screen.locator(".cm-line").last.click()
    screen.keyboard.type('<a href="')
    screen.keyboard.type("o")
    expect(screen.locator(".cm-tooltip-autocomplete")).to_contain_text("other.html")
    screen.keyboard.type("ther.html#l")
    expect(screen.locator(".cm-tooltip-autocomplete")).to_contain_text("other.html#lamp")
    screen.keyboard.press("Escape")
    screen.keyboard.press("Control+a")
    screen.keyboard.press("Delete")
    screen.keyboard.type("<em>x</em>", delay=20)
    expect(screen.locator(".cm-content")).to_have_text("<em>x</em>")
    screen.keyboard.press("Home")
    screen.keyboard.press("ArrowRight")
    expect(screen.locator(".cm-matchingBracket").first).to_be_visible()
    screen.get_by_role("button", name="Discard").click()

    expect(screen.locator(".cm-content")).to_contain_text("Coal")
    screen.locator(".cm-line", has_text="tea").nth(1).click()
    screen.keyboard.press("Home")
    screen.keyboard.press("Shift+End")
    screen.keyboard.press("Control+f")
    screen.get_by_label("Search", exact=True).fill("tea")
    expect(screen.locator(".cm-find")).to_contain_text("3 found")
    screen.get_by_label("in the selection").check()
    expect(screen.locator(".cm-find")).to_contain_text("1 found")
    screen.get_by_label("Replace with").fill("dinner")
    screen.get_by_role("button", name="Replace all").click()
    expect(screen.locator(".cm-line", has_text="dinner")).to_have_count(1)
    expect(screen.locator(".cm-line", has_text="tea")).to_have_count(2)


def test_an_identifier_that_cannot_be_says_why_and_nothing_is_lost(screen, served):
    open_page(screen, bring_demo(served), "handbook.html")
    screen.get_by_role("rowheader", name="What to wear").click()
    screen.keyboard.press("Enter")
    field = screen.get_by_role("textbox", name="Identifier of What to wear")
    field.fill("safety")
    screen.keyboard.press("Enter")
    expect(screen.get_by_role("alert")).to_contain_text("“safety” is taken on this page")
    screen.locator("caption").evaluate("() => document.activeElement.blur()")
    expect(field).to_have_value("safety")


def test_addresses_are_copied(screen, served):
    open_page(screen, bring_demo(served), "handbook.html")
    screen.get_by_role("rowheader", name="Boiler care").click()
    screen.keyboard.press("c")
    screen.get_by_role("button", name="HTML link").click()
    assert screen.evaluate("navigator.clipboard.readText()") == '<a href="handbook.html#boiler">Boiler care</a>'


def test_a_plan_that_went_stale_is_shown_anew(screen, context, served):
    site = bring_demo(served)
    open_page(screen, site, "handbook.html")
    screen.get_by_role("button", name="Give identifiers").click()
    expect(screen.locator(".tray")).to_contain_text("75 edits")
    other = context.new_page()
    open_page(other, site, "handbook.html")
    other.get_by_role("rowheader", name="What to wear").click()
    other.keyboard.press("Enter")
    other.keyboard.press("Enter")
    apply(other)
    screen.get_by_role("button", name="Apply").click()
    expect(screen.locator(".tray")).to_contain_text("74 edits")
    expect(screen.locator(".tray").get_by_role("alert")).to_contain_text("nothing was written")
    apply(screen)


def test_what_is_skipped_is_listed_with_its_reason(screen, served, tmp_path):
    folder = tmp_path / "club"
    (folder / ".git").mkdir(parents=True)
    (folder / ".git" / "config").write_text("x")
    (folder / "index.html").write_text("<h1>Club</h1>")
    (folder / "film.bin").write_bytes(b"x" * 17_000_000)
    screen.goto(served)
    screen.get_by_label("Folder", exact=True).set_input_files(folder)
    expect(screen.locator(".skipped")).to_contain_text("film.bin")
    expect(screen.locator(".skipped")).to_contain_text("at most 16 MB")
    screen.get_by_role("button", name="Open the site").click()
    expect(screen.get_by_role("link", name="index.html")).to_be_visible()
    expect(screen.get_by_role("heading", name="club")).to_be_visible()


def test_pages_are_dropped(screen, served):
    screen.goto(served)
    dropped = screen.evaluate_handle("""() => {
      const dropped = new DataTransfer();
      dropped.items.add(new File(["<h2>One</h2>"], "one.html", { type: "text/html" }));
      dropped.items.add(new File(["<h2>Two</h2>"], "two.html", { type: "text/html" }));
      return dropped;
    }""")
    screen.locator(".intake").dispatch_event("drop", {"dataTransfer": dropped})
    expect(screen.get_by_role("link", name="two.html")).to_be_visible()


def test_a_source_is_pasted(screen, served):
    screen.goto(served)
    screen.get_by_role("button", name="Paste a source").click()
    screen.get_by_label("Name of the page").fill("notes")
    screen.get_by_role("textbox", name="Source").fill("<h2>One</h2>\n<h2>Two</h2>")
    screen.get_by_role("button", name="Bring in", exact=True).click()
    screen.get_by_role("link", name="notes.html").click()
    expect(screen.get_by_role("rowheader", name="Two")).to_be_visible()


def test_pages_that_cannot_be_shown_say_so(screen, served):
    site = bring(
        served, {"binary.html": b"GIF89a\0", "odd.html": b"<meta charset=utf-8><h2>caf\xe9</h2>", "empty.html": b""}
    )
    screen.goto(site)
    expect(screen.get_by_text("This is not a text file").first).to_be_visible()
    screen.goto(f"{site}/pages/binary.html")
    expect(screen.get_by_role("alert")).to_contain_text("not a text file")
    open_page(screen, site, "odd.html")
    expect(screen.get_by_role("note")).to_contain_text("Save the page as utf-8")
    expect(screen.get_by_role("button", name="Give identifiers")).to_be_disabled()
    open_page(screen, site, "empty.html")
    expect(screen.locator("main")).to_contain_text("No headings yet")
    screen.goto(f"{site}/pages/gone.html")
    expect(screen.get_by_role("alert")).to_contain_text("has no page")
    screen.goto(site[:-12] + "000000000000")
    expect(screen.get_by_role("alert")).to_contain_text("not there any more")


def test_the_page_s_own_scripts_do_not_run_and_reach_nothing(screen, served):
    spy = (
        b"<head><script>parent.postMessage('ran', '*'); fetch('/api/sites')</script></head><body onload=\"parent.postMessage('ran','*')\">"
        b"<h2 id=a>A</h2><form action=/api/sites method=post><button>go</button></form><iframe src=/api/sites></iframe>"
        b"<a href='javascript:parent.postMessage(\"ran\",\"*\")'>js</a> <a href='https://outside.example/'>out</a>"
        b"<img src=x onerror=\"parent.postMessage('ran','*')\">"
    )
    site = bring(served, {"spy.html": spy})
    requests: list[str] = []
    screen.add_init_script("window.heard = []; addEventListener('message', event => heard.push(event.data))")
    open_page(screen, site, "spy.html")
    frame = screen.frame_locator(RENDERED)
    expect(frame.get_by_role("heading", name="A")).to_be_visible()
    screen.on("request", lambda request: requests.append(request.url))
    frame.get_by_role("link", name="js").click()
    frame.get_by_role("button", name="go").click()
    frame.get_by_role("link", name="out").click()
    expect(screen.locator(".line")).to_contain_text("so it is not opened here")
    screen.wait_for_timeout(300)
    assert "ran" not in screen.evaluate("heard")
    assert [url for url in requests if "outside.example" in url or url.endswith("/api/sites")] == []
    inner = next(one for one in screen.frames if "/preview/" in one.url)
    assert inner.evaluate("self.origin") == "null"
    assert (
        inner.evaluate("(() => { try { return document.cookie } catch (error) { return error.name } })()")
        == "SecurityError"
    )
    assert inner.evaluate("fetch('/api/sites').then(() => 'reached', () => 'refused')") == "refused"


def test_links_to_other_pages_are_followed_within_the_desk(screen, served):
    open_page(screen, bring_demo(served), "index.html")
    screen.frame_locator(RENDERED).get_by_role("link", name="Joining, hours and money").click()
    expect(screen.get_by_role("heading", name="handbook.html")).to_be_visible()
    expect(screen.frame_locator(RENDERED).get_by_role("heading", name="Joining, hours and money")).to_be_in_viewport()


def test_a_page_of_a_thousand_sections(screen, served):
    sections = b"".join(
        b"<h%d>Section %d with some words</h%d>\n<p>%s</p>\n" % (2 + n % 3, n, 2 + n % 3, b"word " * 60)
        for n in range(1000)
    )
    open_page(screen, bring(served, {"long.html": b"<!DOCTYPE html><h1>Long</h1>\n" + sections}), "long.html")
    expect(screen.get_by_role("rowheader", name="Section 9 ")).to_be_attached()
    assert screen.locator("tbody tr").count() < 200  # those in sight and near it are drawn
    screen.locator(".road [role=listbox]").focus()
    screen.keyboard.press("End")
    expect(screen.get_by_role("rowheader", name="Section 999 ")).to_be_in_viewport()
    screen.get_by_role("button", name="Give identifiers").click()
    expect(screen.locator(".tray")).to_contain_text("1,000 edits")
    apply(screen)


@pytest.mark.parametrize("size", [(1024, 700), (1280, 800), (1720, 1000)])
def test_nothing_is_cut_off_at_other_sizes(screen, served, size):
    screen.set_viewport_size({"width": size[0], "height": size[1]})
    site = bring_demo(served)
    for address in (served, site, f"{site}/pages/handbook.html"):
        screen.goto(address)
        expect(screen.locator("h1").first).to_be_visible()
        screen.wait_for_timeout(200)
        assert screen.evaluate("document.documentElement.scrollWidth <= innerWidth")
    assert screen.evaluate("document.documentElement.scrollHeight <= innerHeight")


def test_what_is_typed_is_kept_over_leaving_and_offered_back(screen, served):
    open_page(screen, bring(served, {"page.html": b"<h2 id=a>A</h2>\n<p>one</p>\n"}), "page.html")
    show_bench(screen, "Source")
    screen.locator(".cm-line", has_text="one").click()
    screen.keyboard.press("End")
    screen.keyboard.type(" and two")
    expect(screen.get_by_text("Not saved", exact=True)).to_be_visible()
    screen.reload()
    expect(screen.locator(".kept")).to_contain_text("did not save it")
    screen.get_by_role("button", name="Restore it").click()
    expect(screen.locator(".cm-content")).to_contain_text("and two")
    screen.get_by_role("button", name="Discard").click()
    expect(screen.locator(".cm-content")).not_to_contain_text("and two")
    screen.reload()
    expect(screen.locator(".cm-content")).to_contain_text("one")
    expect(screen.locator(".kept")).to_have_count(0)


def test_an_operation_asks_before_it_works_on_what_is_not_saved(screen, served):
    open_page(screen, bring(served, {"page.html": b"<h2>A</h2>\n<p>one</p>\n"}), "page.html")
    show_bench(screen, "Source")
    screen.locator(".cm-line", has_text="one").click()
    screen.keyboard.press("Control+End")
    screen.keyboard.type("<h2>B</h2>")
    expect(screen.get_by_role("rowheader", name="B", exact=True)).to_be_visible()
    screen.get_by_role("button", name="Give identifiers").click()
    screen.get_by_role("dialog", name="Save what you typed?").get_by_role("button", name="Cancel").click()
    expect(screen.get_by_text("Not saved", exact=True)).to_be_visible()
    screen.get_by_role("button", name="Give identifiers").click()
    screen.get_by_role("button", name="Save and go on").click()
    expect(screen.locator(".tray")).to_contain_text("Identifiers for 2 sections")
    apply(screen)
    expect(screen.locator(".cm-content")).to_contain_text('<h2 id="b">B</h2>')


def test_source_and_page_follow_each_other(screen, served):
    screen.set_viewport_size({"width": 1680, "height": 1050})
    open_page(screen, bring_demo(served), "handbook.html")
    frame = screen.frame_locator(RENDERED)
    expect(screen.locator(".facts")).to_contain_text("measured")
    expect(screen.locator(".cm-content")).to_be_visible()  # both are there on a wide screen
    screen.locator(".cm-scroller").evaluate("box => box.scrollTo(0, box.scrollHeight / 2)")
    expect(screen.locator("tr[aria-selected=true]")).to_have_count(1)
    chosen = screen.locator("tr[aria-selected=true] th").inner_text()
    expect(frame.get_by_role("heading", name=chosen, exact=True)).to_be_attached()
    assert int(screen.get_by_role("slider").get_attribute("aria-valuenow")) > 2000
    screen.wait_for_timeout(600)  # the source leads no longer
    before = screen.locator(".cm-scroller").evaluate("box => box.scrollTop")
    frame.locator("body").evaluate("() => scrollTo(0, 0)")
    expect(screen.get_by_role("slider")).to_have_attribute("aria-valuenow", "0")
    screen.wait_for_function("before => document.querySelector('.cm-scroller').scrollTop < before / 4", arg=before)


#: A key, where it is pressed, and whether it does what it does there.
KEYS = [
    ("Alt+3", ["ledger", "road", "source", "page", "field"], "Contents"),
    ("d", ["ledger", "road", "page"], "diff"),
    ("?", ["ledger", "road", "page"], "help"),
    ("Control+Enter", ["ledger", "road", "source", "page", "field"], "applied"),
    ("Escape", ["ledger", "road", "page"], "discarded"),
]


@pytest.mark.parametrize(("key", "panes", "does"), KEYS, ids=[key for key, _, _ in KEYS])
def test_keys_do_the_same_in_every_pane(screen, served, key, panes, does):
    markup = b"<!DOCTYPE html><title>T</title><h1 id=t>T</h1>\n<h2>A</h2>\n<p>one</p>\n"
    screen.set_viewport_size({"width": 1680, "height": 1050})
    site = bring(served, {f"{pane}.html": markup for pane in panes})
    for pane in panes:
        open_page(screen, site, f"{pane}.html")
        screen.get_by_role("button", name="Give identifiers").click()
        expect(screen.get_by_role("button", name="Apply")).to_be_enabled()
        {
            "ledger": lambda: screen.locator("tr[data-row='1']").focus(),
            "road": lambda: screen.locator(".road [role=listbox]").focus(),
            "source": lambda: screen.locator(".cm-content").focus(),
            "page": lambda: screen.frame_locator(RENDERED).get_by_text("one").click(),
            "field": lambda: screen.get_by_role("combobox", name="Window").focus(),
        }[pane]()
        screen.keyboard.press(key)
        {
            "Contents": lambda: expect(screen.get_by_role("tab", name="Contents", selected=True)).to_be_visible(),
            "diff": lambda: expect(screen.locator(".diff")).to_be_visible(),
            "help": lambda: expect(screen.get_by_role("dialog", name="Keyboard")).to_be_visible(),
            "applied": lambda: expect(screen.locator(".tray")).to_contain_text("Applied"),
            "discarded": lambda: expect(screen.locator(".tray")).to_contain_text("Discarded"),
        }[does]()
        assert screen.locator(".cm-content").inner_text().count("\n") < 8  # nothing was typed


def test_f6_goes_round_all_panes_and_leaves_the_source(screen, served):
    screen.set_viewport_size({"width": 1680, "height": 1050})
    open_page(screen, bring(served, {"page.html": b"<h2>A</h2>\n<p>one</p>\n"}), "page.html")
    screen.evaluate("document.activeElement.blur()")
    pane = "document.activeElement.closest('[data-pane]')?.dataset.pane"
    seen = []
    for _ in range(4):
        screen.keyboard.press("F6")
        seen.append(screen.evaluate(pane))
    assert seen == ["road", "ledger", "bench", "road"]  # the tray has nothing to press yet
    screen.keyboard.press("Shift+F6")
    assert screen.evaluate(pane) == "bench"


def test_arrows_reach_the_look_alikes_of_a_page_without_headings(screen, served):
    markup = b"<p><b>Coal</b></p><p>It is black and burns.</p><p><b>Water</b></p><p>It is wet.</p>"
    open_page(screen, bring(served, {"page.html": markup}), "page.html", "Headings")
    expect(screen.locator("tr.extra")).to_have_count(2)
    screen.evaluate("document.activeElement.blur()")
    screen.keyboard.press("ArrowDown")
    screen.keyboard.press("ArrowDown")
    expect(screen.locator("tr.extra").nth(1)).to_be_focused()


def test_the_next_step_does_the_whole_job(screen, served):
    open_page(screen, bring_demo(served), "stations.html")
    for stage, state in [("identifiers", "all 9"), ("contents", "entries")]:
        screen.get_by_role("button", name=f"Next: {stage}").click()
        apply(screen)
        expect(screen.get_by_role("tab", name=stage.capitalize())).to_contain_text(state)
    screen.get_by_role("button", name="Next: jump links").click()  # what leads nowhere wants a choice
    expect(screen.locator("tr.extra .wrong").first).to_be_visible()
    for _ in range(3):  # each address that is dead
        expect(screen.get_by_role("button", name="Next: jump links")).to_be_visible()
        screen.get_by_role("button", name="Not now").click()
    expect(screen.get_by_role("tab", name="Back to top")).to_have_attribute("aria-selected", "true")
    apply(screen)
    expect(screen.get_by_role("tab", name="Back to top")).to_contain_text("of")


def test_someone_new_is_led_along_a_short_path(browser, served):
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    screen = context.new_page()
    site = bring_demo(served)
    screen.goto(f"{site}/pages/handbook.html")
    step = screen.locator(".el-tour__content")
    for title in ("The sections of the page", "What is done", "A finding", "Its fix", "Every change"):
        expect(step).to_contain_text(title)
        if title == "Its fix":
            expect(screen.locator(".diff")).to_be_visible()
        expect(
            step.get_by_role("button", name="Finish" if title == "Every change" else "Next", exact=True)
        ).to_be_focused()
        screen.keyboard.press("Enter")
    expect(step).to_have_count(0)
    expect(screen.get_by_role("tab", name="Headings")).to_have_attribute("aria-selected", "true")
    expect(screen.locator(".tray")).to_contain_text("No pending edits")
    screen.reload()
    expect(screen.get_by_role("tab", name="Headings")).to_be_visible()
    screen.wait_for_timeout(500)
    expect(step).to_have_count(0)
    context.close()


def test_the_source_has_snippets_and_tidies_what_is_selected(screen, served):
    open_page(screen, bring(served, {"page.html": b"<div>\n<p>one</p>\n</div>\n"}), "page.html")
    show_bench(screen, "Source")
    screen.locator(".cm-line", has_text="one").click()
    screen.keyboard.press("End")
    screen.keyboard.press("Enter")
    screen.keyboard.type("picture", delay=30)
    expect(screen.locator(".cm-tooltip-autocomplete")).to_contain_text("picture with caption")
    screen.keyboard.press("Escape")
    for _ in "picture":
        screen.keyboard.press("Backspace")
    screen.get_by_role("button", name="Insert").click()
    screen.get_by_role("menuitem", name="list…").click()
    screen.get_by_role("dialog").get_by_role("textbox").fill("2")
    screen.get_by_role("button", name="Insert list").click()
    expect(screen.locator(".cm-line", has_text="<li>item")).to_have_count(2)
    screen.locator(".cm-content").focus()
    screen.keyboard.press("Control+s")
    expect(screen.locator(".tray")).to_contain_text("Applied: Source edited by hand")

    screen.locator(".cm-content").focus()
    screen.keyboard.press("Control+a")
    screen.get_by_role("button", name="Insert").click()
    screen.get_by_role("menuitem", name="Keep the selection").click()
    screen.get_by_role("dialog").get_by_role("textbox").fill("my box")
    screen.get_by_role("button", name="Keep as snippet").click()
    screen.get_by_role("button", name="Insert").click()
    expect(screen.get_by_role("menuitem", name="my box")).to_be_visible()
    screen.get_by_role("menuitem", name="Tidy the indentation").click()
    expect(screen.locator(".tray")).to_contain_text("Indentation tidied")
    apply(screen)
    expect(screen.locator(".cm-line", has_text="<p>one")).to_have_text("  <p>one</p>")


def test_a_block_is_chosen_by_a_click_and_a_section_is_removed(screen, served):
    markup = b"<h1>T</h1><h2 id=a>A</h2>\n<p>first</p>\n<p>second</p>\n<h2 id=b>B</h2>\n<p>third</p>\n"
    open_page(screen, bring(served, {"page.html": markup}), "page.html", "Headings")
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Insert a heading").click()
    screen.get_by_label("Words", exact=True).fill("Between")
    screen.get_by_role("button", name="Click on the page").click()
    expect(screen.get_by_role("dialog", name="Insert a heading")).to_be_hidden()
    screen.frame_locator(RENDERED).get_by_text("second").click()
    expect(screen.get_by_label("Words", exact=True)).to_have_value("Between")  # nothing typed was lost
    screen.get_by_role("button", name="Show the edits").click()
    apply(screen)
    screen.get_by_role("rowheader", name="A", exact=True).click()
    screen.get_by_role("button", name="More").click()
    screen.get_by_role("menuitem", name="Remove “A”").click()
    expect(screen.locator(".tray")).to_contain_text("“A” removed")
    apply(screen)
    expect(screen.locator("tr[data-row] th")).to_have_text(["T", "Between", "B"])
    screen.locator(".tray").get_by_role("button", name="Undo").click()
    expect(screen.locator("tr[data-row] th")).to_have_text(["T", "A", "Between", "B"])


def test_a_site_is_shown_while_it_is_read(screen, served, monkeypatch):
    may_go_on = threading.Event()
    work_off = working.work_off

    def wait(database, site_id):
        may_go_on.wait()
        return work_off(database, site_id)

    monkeypatch.setattr(working, "work_off", wait)
    page = b"<!DOCTYPE html><html lang=en><title>Page %d</title><main><h1>A</h1><h2 id=b>B</h2>words</b></main>"
    try:
        site = bring(served, {f"{number}.html": page % number for number in range(intake.INDEXED_AT_ONCE + 20)})
        screen.goto(site, wait_until="commit")
        expect(screen.get_by_text("0 of 120 read")).to_be_visible()
        expect(screen.get_by_role("heading", name="Test", exact=True)).to_be_visible()
        expect(screen.locator("tbody tr")).to_have_count(100)
        assert faults(screen) == []
        screen.get_by_role("link", name="11.html", exact=True).click()
        expect(screen.get_by_text("Reading the site: 0 of 120 pages")).to_be_visible()
        expect(screen.get_by_role("rowheader", name="B", exact=True)).to_be_visible()
        expect(screen.frame_locator(RENDERED).get_by_role("heading", name="B")).to_be_visible()
        expect(screen.get_by_role("tab", name="Findings")).to_contain_text("1 finding")
        assert faults(screen) == []
    finally:
        may_go_on.set()
    expect(screen.get_by_text("Reading the site")).to_be_hidden()
    expect(screen.get_by_role("tab", name="Findings")).not_to_contain_text("1 finding")
    screen.get_by_role("link", name="Test", exact=True).click()
    expect(screen.locator("tbody tr").first).to_contain_text("Page 0")


def test_the_reading_of_a_site_is_stopped_and_goes_on(screen, served):
    body = b"<p>Words. <a href='1.html#b'>brakes</a></p>" * 40
    page = b"<!DOCTYPE html><html lang=en><title>%d</title><main><h1>A</h1><h2 id=b>B</h2>%s</main>"
    site = bring(served, {f"{number}.html": page % (number, body) for number in range(400)})
    screen.goto(site)
    screen.get_by_role("button", name="Stop").click()
    expect(screen.get_by_text("Reading stopped")).to_be_visible()
    expect(screen.get_by_text("the rest waits until the site is opened")).to_be_visible()
    assert faults(screen) == []
    screen.get_by_role("button", name="Go on reading").click()
    expect(screen.get_by_role("heading", name="Pages", exact=True)).to_be_visible(timeout=60_000)
    expect(screen.get_by_role("button", name="Stop")).to_be_hidden()
