"""Navigation across pages: made, renewed, taken out again, and an author's own put right."""

import pytest

from pages import carried_out, site_from
from signpost.core.navigation.menu_sections import plan_menu_section
from signpost.core.navigation.menus import MenuOptions
from signpost.core.navigation.order import reading_order
from signpost.core.navigation.planning import NavigationKind, NavigationOptions, plan_navigation
from signpost.core.site.site import Elsewhere, Resolved
from signpost.core.text.errors import RequestError


def page(title: str, inner: str = "", head: str = "", lang: str = "en") -> str:
    return (
        f'<!DOCTYPE html>\n<html lang="{lang}">\n<title>{title}</title>\n<body>\n{head}  <main>\n'
        f"    <h1>{title}</h1>\n{inner}  </main>\n</body>\n</html>\n"
    )


FILES = {
    "index.html": page("Our line"),
    "boilers.html": page("Boilers", '    <h2 id="fire">Fire</h2>\n    <p>…</p>\n    <h2 id="water">Water</h2>\n'),
    "works/index.html": page("Works"),
    "works/coal.html": page("Coal & coke", "    <h2>No name</h2>\n"),
}


def done(files, kind, **said) -> dict[str, str]:
    """The files after navigation was made; made again, it must change nothing, and taken out it must leave none."""
    site = site_from(files)
    options = NavigationOptions(NavigationKind(kind), **said)
    after = carried_out(files, site, plan_navigation(site, options))
    again = site_from(after)
    if not said.get("remove"):
        chosen = NavigationOptions(NavigationKind(kind), **{**said, "block": said.get("block") or menu_of(after)})
        assert not plan_navigation(again, options if kind != "menu" else chosen), "a second run changes it"
        for path, shown in again.pages.items():
            for link in shown.links:
                led = again.follow(path, link.href)
                assert isinstance(led, Resolved | Elsewhere), f"{path}: {link.href} leads nowhere"
    return {path: data.decode() for path, data in after.items()}


def menu_of(files) -> str | None:
    return "nav site-menu" if any("site-menu" in str(data) for data in files.values()) else None


def test_the_order_is_that_of_links_on_then_of_menus_then_of_paths():
    assert reading_order(site_from(FILES)) == ["index.html", "boilers.html", "works/index.html", "works/coal.html"]
    chain = {
        "a.html": page("A", '<p><a rel="next" href="c.html">C</a></p>'),
        "b.html": page("B"),
        "c.html": page("C", '<p><a rel="next" href="b.html">B</a></p>'),
    }
    assert reading_order(site_from(chain)) == ["a.html", "c.html", "b.html"]


class TestSteps:
    def test_each_page_leads_to_those_around_it(self):
        after = done(FILES, "steps", pages=["index.html", "works/coal.html", "boilers.html"])
        assert after["works/coal.html"] == page(
            "Coal & coke",
            "    <h2>No name</h2>\n"
            '    <nav class="page-steps" aria-label="Previous and next page">\n'
            '      <p>Previous: <a href="../index.html" rel="prev">Our line</a></p>\n'
            '      <p>Next: <a href="../boilers.html" rel="next">Boilers</a></p>\n'
            "    </nav>\n",
        )
        assert "Previous" not in after["index.html"].replace("Previous and", "")
        assert after["works/index.html"] == FILES["works/index.html"]

    def test_in_another_order_what_was_made_is_renewed_and_taken_out_it_leaves_no_trace(self):
        order = ["index.html", "works/coal.html", "boilers.html"]
        after = done(FILES, "steps", pages=order)
        turned = done(after, "steps", pages=order[::-1])
        assert 'href="../boilers.html" rel="prev"' in turned["works/coal.html"]
        assert done(turned, "steps", pages=order, remove=True) == FILES

    def test_links_made_by_hand_are_put_right_where_they_are(self):
        own = '    <p class="on">Then read <a rel="next" href="works/index.html">Works</a>, if you like.</p>\n'
        files = {**FILES, "index.html": page("Our line", own)}
        after = done(files, "steps", pages=["index.html", "boilers.html"])
        assert after["index.html"] == page(
            "Our line", own.replace("works/index.html", "boilers.html").replace(">Works<", ">Boilers<")
        )

    def test_a_block_with_words_of_an_author_stays(self):
        own = '    <div class="page-steps">Mind the gap. <a href="boilers.html">Boilers</a></div>\n'
        files = {**FILES, "index.html": page("Our line", own)}
        plan = plan_navigation(
            site_from(files), NavigationOptions(NavigationKind.STEPS, ["index.html", "boilers.html"])
        )
        assert "index.html" not in plan.edits
        assert "of your own" in plan.notes[0]


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("</nav>", "<!-- mind the gap --></nav>"),
        ("<a href", '<a class="mine" href'),
        ("<p>Prev", "<p>Please read on. Prev"),
    ],
)
@pytest.mark.parametrize("remove", [False, True])
def test_nothing_that_an_author_put_into_a_made_block_is_lost(old, new, remove):
    order = ["index.html", "works/coal.html", "boilers.html"]
    after = done(FILES, "steps", pages=order)
    own = {**after, "works/coal.html": after["works/coal.html"].replace(old, new, 1)}
    assert own != after
    options = NavigationOptions(NavigationKind.STEPS, order[::-1], remove=remove)
    plan = plan_navigation(site_from(own), options)
    assert "works/coal.html" not in plan.edits
    assert "of your own" in plan.notes[0]


class TestPath:
    def test_a_page_says_where_it_is(self):
        after = done(FILES, "path")
        assert after["works/coal.html"] == page("Coal &amp; coke").replace(
            "Coal &amp; coke</title>", "Coal & coke</title>"
        ).replace(
            "    <h1>Coal &amp; coke</h1>\n",
            '    <nav class="page-path" aria-label="You are here">\n'
            '      <p><a href="../index.html">Our line</a> › <a href="index.html">Works</a> › '
            '<span aria-current="page">Coal &amp; coke</span></p>\n'
            "    </nav>\n    <h1>Coal & coke</h1>\n    <h2>No name</h2>\n",
        )
        assert after["index.html"] == FILES["index.html"]
        assert done(after, "path", remove=True) == FILES

    def test_it_follows_the_pages_words(self):
        after = done(FILES, "path")
        changed = {**after, "works/index.html": after["works/index.html"].replace("Works</h1>", "The works</h1>")}
        again = done(changed, "path")
        assert ">The works</a>" in again["works/coal.html"]
        assert '<span aria-current="page">The works</span>' in again["works/index.html"]

    def test_in_the_language_of_the_page(self):
        files = {**FILES, "works/coal.html": page("Kohle", lang="de")}
        assert 'aria-label="Sie sind hier"' in done(files, "path")["works/coal.html"]


class TestPathsByHand:
    """Deep pages with a path of their author's, in several hands."""

    @staticmethod
    def coal(trail: str) -> dict[str, str]:
        return {**FILES, "works/coal.html": page("Coal", head=f"{trail}\n")}

    @pytest.mark.parametrize(
        ("there", "wanted"),
        [
            pytest.param(
                '<p><a href="../index.html">Home</a> &gt; Coal</p>',
                '<p><a href="../index.html">Home</a> &gt; <a href="index.html">Works</a> &gt; Coal</p>',
                id="arrows, the last lacks",
            ),
            pytest.param(
                "<div class=crumbs><A HREF='./'>The works</A> / <b>Coal</b></div>",
                "<div class=crumbs><A HREF='../index.html'>Our line</A> / <A HREF='./'>The works</A> / <b>Coal</b></div>",
                id="named, the first lacks",
            ),
            pytest.param(
                '<nav aria-label="Breadcrumb">\n<ol>\n  <li><a href="../">Start</a></li>\n  <li>Coal</li>\n</ol></nav>',
                '<nav aria-label="Breadcrumb">\n<ol>\n  <li><a href="../">Start</a></li>\n'
                '  <li><a href="index.html">Works</a></li>\n  <li>Coal</li>\n</ol></nav>',
                id="a list",
            ),
            pytest.param(
                '<div id="path"><a href="https://line.example/">The line</a> &gt; <a href="./">Works</a></div>',
                '<div id="path"><a href="https://line.example/">The line</a> &gt; '
                '<a href="../index.html">Our line</a> &gt; <a href="./">Works</a></div>',
                id="begins on another site",
            ),
            pytest.param(
                '<p>You are here: <a href="../index.html">Home</a> » <a href="index.html">Works</a> » Coal</p>',
                None,
                id="whole already",
            ),
        ],
    )
    def test_it_is_completed_where_it_is(self, there, wanted):
        after = done(self.coal(there), "path")["works/coal.html"]
        assert after == self.coal(wanted or there)["works/coal.html"]

    def test_one_that_goes_another_way_stays(self):
        files = self.coal('<p class="breadcrumb"><a href="../boilers.html">Boilers</a> › Coal</p>')
        plan = plan_navigation(site_from(files), NavigationOptions(NavigationKind("path")))
        assert "works/coal.html" not in plan.edits
        assert "goes another way" in plan.notes[0]

    @pytest.mark.parametrize(
        "menu",
        [
            '<p><a href="../index.html">Home</a> | Coal</p>',
            '<p><a href="../index.html">Home</a> » <a href="../boilers.html">Boilers</a></p>',
            '<p>See <a href="../index.html">all</a> → and more</p><h1>x</h1>',
        ],
        ids=["a bar", "no words at the end", "words between"],
    )
    def test_a_menu_is_no_path(self, menu):
        after = done(self.coal(menu), "path")["works/coal.html"]
        assert 'class="page-path"' in after
        assert menu in after


class TestOverviews:
    def test_all_pages_with_their_sections(self):
        after = done(FILES, "contents", home="index.html")
        assert after["index.html"] == page(
            "Our line",
            '    <nav class="site-contents" aria-label="All pages">\n'
            "      <ul>\n"
            '        <li><a href="boilers.html">Boilers</a>\n'
            "          <ul>\n"
            '            <li><a href="boilers.html#fire">Fire</a></li>\n'
            '            <li><a href="boilers.html#water">Water</a></li>\n'
            "          </ul>\n"
            "        </li>\n"
            '        <li><a href="works/index.html">Works</a></li>\n'
            '        <li><a href="works/coal.html">Coal &amp; coke</a></li>\n'
            "      </ul>\n"
            "    </nav>\n",
        )
        assert done(after, "contents", home="index.html", remove=True) == FILES

    def test_a_section_that_is_new_comes_in(self):
        after = done(FILES, "contents", home="index.html")
        more = {**after, "works/index.html": page("Works", '    <h2 id="shed">Shed</h2>\n')}
        assert '<a href="works/index.html#shed">Shed</a>' in done(more, "contents", home="index.html")["index.html"]

    def test_sections_without_an_identifier_are_told(self):
        site = site_from(FILES)
        plan = plan_navigation(site, NavigationOptions(NavigationKind.CONTENTS, home="index.html"))
        assert plan.notes == (
            "1 section has no identifier, and so no entry: works/coal.html. Add identifiers first.",
        )

    def test_everything_from_a_to_z(self):
        after = done(FILES, "index", home="index.html")
        assert '<p><a href="#letter-b">B</a> <a href="#letter-c">C</a>' in after["index.html"]
        assert '<dd><a href="boilers.html#fire">Fire</a> (Boilers)</dd>' in after["index.html"]
        assert done(after, "index", home="index.html", remove=True) == FILES

    @pytest.mark.parametrize("kind", ["contents", "index"])
    def test_a_list_that_was_written_into_stays(self, kind):
        after = done(FILES, kind, home="index.html")
        own = {**after, "index.html": after["index.html"].replace("Boilers</a>", "Boilers</a>, which bite", 1)}
        with pytest.raises(RequestError, match="of your own"):
            plan_navigation(site_from(own), NavigationOptions(NavigationKind(kind), home="index.html"))


class TestSkip:
    HEAD = '  <header>\n    <a href="index.html">Home</a>\n  </header>\n'

    def test_the_first_link_leads_past_the_header(self):
        files = {
            path: text.replace("<body>\n", "<body>\n" + self.HEAD) for path, text in FILES.items() if "/" not in path
        }
        after = done(files, "skip")
        assert after["boilers.html"] == files["boilers.html"].replace(
            "<body>\n", '<body>\n  <a class="skip-link" href="#content">Skip to content</a>\n'
        ).replace("<main>", '<main id="content">')
        gone = done(after, "skip", remove=True)
        assert gone["boilers.html"] == files["boilers.html"].replace("<main>", '<main id="content">')

    def test_one_that_an_author_made_is_not_taken_out(self):
        own = '  <a class="skip-link" href="#x">To the text</a>\n' + self.HEAD
        files = {"index.html": page("A", head=own).replace("<main>", '<main id="x">')}
        assert done(files, "skip", remove=True) == files

    def test_a_page_that_has_one_or_needs_none_stays(self):
        own = '  <a href="#x">To the text</a>\n' + self.HEAD
        files = {"index.html": page("A", head=own).replace("<main>", '<main id="x">'), "b.html": page("B")}
        assert done(files, "skip") == files


class TestMenu:
    def test_a_new_menu_on_all_its_pages(self):
        order = ["index.html", "boilers.html", "works/coal.html"]
        after = done(FILES, "menu", pages=order)
        assert after["works/coal.html"] == FILES["works/coal.html"].replace(
            "  <main>\n",
            '  <nav class="site-menu" aria-label="Pages">\n'
            "    <ul>\n"
            '      <li><a href="../index.html">Our line</a></li>\n'
            '      <li><a href="../boilers.html">Boilers</a></li>\n'
            '      <li><a href="coal.html" aria-current="page">Coal &amp; coke</a></li>\n'
            "    </ul>\n"
            "  </nav>\n"
            "  <main>\n",
        )
        assert done(after, "menu", pages=list(FILES), remove=True) == FILES

    def test_a_bar_has_no_separator_behind_its_last_entry(self):
        order = ["index.html", "boilers.html", "works/coal.html"]
        after = done(FILES, "menu", pages=order, menu=MenuOptions(is_list=False))
        assert "Boilers</a> |\n" in after["index.html"]
        assert "coke</a>\n" in after["index.html"]

    def menu(self, *names: str, own: str = "") -> str:
        items = "".join(
            f"    <li><b>{name.title()}</b>\n"
            if name == own
            else f'    <li><a href="{name}.html">{name.title()}</a>\n'
            for name in names
        )
        return f'  <ul class="nav">\n{items}    <li><a href="https://coal.example/">Coal</a>\n  </ul>\n'

    def files(self, *order: str) -> dict[str, str]:
        return {f"{name}.html": page(name.title(), head=self.menu(*order, own=name)) for name in ("a", "b", "c", "d")}

    def test_the_order_of_one_made_by_hand_is_changed_on_all_pages(self):
        after = done(
            self.files("a", "b", "c"), "menu", block="ul nav", pages=["c.html", "a.html", "d.html", "b.html"]
        )
        # what leads out of the site stays behind the entry that it followed
        wanted = self.files("c", "a", "d", "b")
        shown = {
            path: text.replace('    <li><a href="https://coal.example/">Coal</a>\n', "")
            for path, text in after.items()
        }
        assert shown == {
            path: text.replace('    <li><a href="https://coal.example/">Coal</a>\n', "")
            for path, text in wanted.items()
        }
        assert all(text.count("coal.example") == 1 for text in after.values())

    def test_pages_are_taken_out_and_come_in_again(self):
        files = self.files("a", "b", "c", "d")
        fewer = done(files, "menu", block="ul nav", pages=["d.html", "b.html", "a.html"])
        assert "c.html" not in fewer["a.html"]
        back = done(fewer, "menu", block="ul nav", pages=["a.html", "b.html", "c.html", "d.html"])
        assert back["b.html"] == files["b.html"]

    def test_a_page_that_has_it_otherwise_stays_and_one_that_differs_everywhere_is_no_menu(self):
        files = self.files("a", "b", "c")
        own = files["d.html"].replace("</ul>", "<li><a href=a.html>My own</a>\n</ul>")
        plan = plan_navigation(
            site_from({**files, "d.html": own}),
            NavigationOptions(NavigationKind.MENU, ["c.html", "b.html", "a.html"], block="ul nav"),
        )
        assert (sorted(plan.edits), plan.notes) == (
            ["a.html", "b.html", "c.html"],
            ("d.html has this menu otherwise, and stays as it is.",),
        )
        each = {
            path: text.replace("</ul>", f"<li><a href={path}#x>{path}</a>\n</ul>") for path, text in files.items()
        }
        with pytest.raises(RequestError, match="Make it alike first"):
            plan_navigation(
                site_from(each), NavigationOptions(NavigationKind.MENU, ["b.html", "a.html"], block="ul nav")
            )

    @pytest.mark.parametrize("between", ["<!-- the rest -->", "<img src=x.png alt=''>"])
    def test_what_an_author_put_between_entries_is_not_lost(self, between):
        files = {
            path: text.replace("B</a>\n", f"B</a></li>\n{between}\n").replace(
                "<b>B</b>\n", f"<b>B</b></li>\n{between}\n"
            )
            for path, text in self.files("a", "b", "c").items()
        }
        order = ["c.html", "b.html", "a.html"]
        with pytest.raises(RequestError, match="would be lost"):
            plan_navigation(site_from(files), NavigationOptions(NavigationKind.MENU, order, block="ul nav"))

    def test_sections_come_below_their_pages(self):
        order = ["index.html", "boilers.html", "works/coal.html"]
        after = done(FILES, "menu", pages=order, menu=MenuOptions(sections=True))
        assert '            <li><a href="../boilers.html#water">' not in after["index.html"]
        assert '<li><a href="../boilers.html#water">Water</a></li>' in after["works/coal.html"]
        more = {
            **after,
            "boilers.html": after["boilers.html"].replace(
                '<h2 id="water">', '<h2 id="ash">Ash</h2>\n    <h2 id="water">'
            ),
        }
        again = done(more, "menu", pages=order, block="nav site-menu", menu=MenuOptions(sections=True))
        assert '<a href="../boilers.html#ash">Ash</a>' in again["works/coal.html"]


class TestMenuSection:
    """A link from a menu to one section, on all pages that have it."""

    LIST = (
        '  <ul class="menu">\n    <li><a href="{up}index.html">Home</a>\n    <li><a href="{up}b.html">B</a>{below}\n'
        '    <li><a href="https://coal.example/">Coal</a>\n  </ul>\n'
    )

    def files(self, menu: str, below: str = "") -> dict[str, str]:
        b = "    <h2>Fire</h2>\n    <h2 id=w>Water</h2>\n    <h2 id=z>Zinc</h2>\n"
        nav = f"<nav>\n{menu}</nav>\n"
        return {
            "index.html": page("Home", head=nav.format(up="", below=below)),
            "b.html": page("B", b, head=nav.format(up="", below=below)),
            "d/c.html": page("C", head=nav.format(up="../", below=below.replace("b.html", "../b.html"))),
        }

    def added(self, files, section: int, words: str = "") -> dict[str, str]:
        site = site_from(files)
        after = carried_out(files, site, plan_menu_section(site, "nav", "b.html", section, words))
        with pytest.raises(RequestError, match="already"):
            plan_menu_section(site_from(after), "nav", "b.html", section, words)
        return {path: data.decode() for path, data in after.items()}

    def test_behind_the_pages_own_entry_in_its_hand(self):
        after = self.added(self.files(self.LIST), 1)
        for path, up in [("index.html", ""), ("d/c.html", "../")]:
            assert (
                f'<a href="{up}b.html">B</a>\n    <li><a href="{up}b.html#fire">Fire</a>\n    <li><a href="https'
                in after[path]
            )
        assert '<a href="#fire">Fire</a>' in after["b.html"]
        assert '<h2 id="fire">Fire</h2>' in after["b.html"]

    def test_among_the_sections_that_are_listed_in_their_order(self):
        below = '\n      <ul>\n        <li><a href="b.html#z">Zinc!</a></li>\n      </ul>'
        after = self.added(self.files(self.LIST, below), 2, "Wet & cold")
        items = (
            '<li><a href="../b.html#w">Wet &amp; cold</a></li>\n        <li><a href="../b.html#z">Zinc!</a></li>\n'
        )
        assert items in after["d/c.html"]
        assert f'<li><a href="../b.html#fire">Fire</a></li>\n        {items}' in self.added(after, 1)["d/c.html"]

    def test_in_a_bar_behind_the_last(self):
        bar = '  <a href="{up}index.html">Home</a> |\n  <a href="/x.html">X</a> |\n  <a href="{up}d/c.html">C</a>\n'
        after = self.added(self.files(bar), 3)
        assert 'C</a> |\n  <a href="b.html#z">Zinc</a>\n' in after["index.html"]
