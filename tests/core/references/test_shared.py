"""Blocks that several pages carry copies of, kept alike."""

import pytest

from pages import carried_out, site_from
from signpost.core.references.shared import find_shared, plan_alike
from signpost.core.text.errors import RequestError


def page(menu: str, title: str = "T", foot: str = "") -> str:
    return f'<!DOCTYPE html>\n<html lang="en">\n<title>{title}</title>\n<body>\n{menu}\n<main id="main">\n<h1 id="x">{title}</h1>\n</main>\n{foot}</body>\n</html>\n'


def menu(*links: str, of: str = 'nav id="menu"') -> str:
    return f"<{of}>\n" + "".join(f"  {link}\n" for link in links) + f"</{of.partition(' ')[0]}>"


A, B, C = '<a href="a.html">Home</a>', '<a href="b.html">Boilers</a>', '<a href="c.html">Coal</a>'
D = '<a href="deep/d.html">Deep</a>'
UP = {link: link.replace('href="', 'href="../').replace("../deep/d", "d") for link in (A, B, C, D)}


def alike(files, **how) -> dict[str, str]:
    site = site_from(files)
    done = carried_out(files, site, plan_alike(site, **how))
    again = site_from(done)
    assert not plan_alike(again, **how), "a second run changes what the first one made"
    return {path: data.decode() for path, data in done.items()}


def test_what_lacks_a_link_gets_it_with_paths_of_its_own():
    whole = (A, B, C, D)
    files = {
        "a.html": page(menu(*whole)),
        "b.html": page(menu(*whole)),
        "c.html": page(menu(A, B, C)),
        "deep/d.html": page(menu(*[UP[link] for link in whole])),
    }
    assert alike(files)["c.html"] == page(menu(*whole))
    files["deep/d.html"] = page(menu(*[UP[link] for link in (A, B, D)]))
    done = alike(files)
    assert done["deep/d.html"] == page(menu(*[UP[link] for link in whole]))
    assert done["a.html"] == files["a.html"]


def marked(link: str, how: str) -> str:
    words = link.partition(">")[2].partition("<")[0]
    return {
        "aria": link.replace("<a ", '<a aria-current="page" '),
        "behind": link.replace('">', '" aria-current="page">'),
        "class": link.replace("<a ", '<a class="here" '),
        "bare": f"<strong>{words}</strong>",
        "span": f'<span class="here">{words}</span>',
    }[how]


@pytest.mark.parametrize("how", ["aria", "behind", "class", "bare", "span"])
def test_each_copy_marks_its_own_page(how):
    links = {"a.html": A, "b.html": B, "c.html": C, "deep/d.html": D}
    files = {
        path: page(menu(*[marked(link, how) if link is own else link for link in links.values()]))
        for path, own in links.items()
        if path != "deep/d.html"
    }
    files["deep/d.html"] = page(menu(*[UP[link] for link in (A, B, D)]))  # without coal, and without a mark
    done = alike(files)
    assert {path: done[path] for path in files if path != "deep/d.html"} == {
        path: files[path] for path in files if path != "deep/d.html"
    }
    own = marked(UP[D], "behind" if how == "aria" else how)
    if how == "class":
        own = '<a href="d.html" class="here">Deep</a>'
    assert done["deep/d.html"] == page(menu(UP[A], UP[B], UP[C], own))


def test_the_mark_of_a_list_item_moves_too():
    def listed(*links, here):
        items = "".join(
            f'  <li class="on">{link}</li>\n' if link is here else f"  <li>{link}</li>\n" for link in links
        )
        return page(
            f'<ul class="menu" role="navigation">\n{items}</ul>'.replace("<ul", "<nav><ul").replace(
                "</ul>", "</ul></nav>"
            )
        )

    files = {
        "a.html": listed(A, B, C, D, here=A),
        "b.html": listed(A, B, C, D, here=B),
        "c.html": listed(A, C, D, here=C),
    }
    assert alike(files)["c.html"] == listed(A, B, C, D, here=C)


def test_links_within_the_page_and_into_others_stay_right():
    skip, into = '<a href="#main">Skip</a>', '<a href="b.html#x">Boilers</a>'
    here = into.replace("b.html", "")
    files = {
        "a.html": page(menu(skip, A, into, C)),
        "b.html": page(menu(skip, A, here, C)),
        "c.html": page(menu(skip, A, C)),
    }
    done = alike(files, model="a.html")
    assert done["c.html"] == page(menu(skip, A, into, C))
    assert done["b.html"] == files["b.html"]
    back = alike({**files, "c.html": page(menu(A, skip, C))}, model="b.html")
    assert back["c.html"] == page(menu(skip, A, into, C))


def test_a_block_of_another_kind_is_left_alone():
    own = [f'<a href="https://example.org/{n}">{n}</a>' for n in range(4)]
    files = {**{path: page(menu(A, B, C)) for path in ("a.html", "b.html", "c.html")}, "d.html": page(menu(*own))}
    site = site_from(files)
    plan = plan_alike(site)
    assert not plan
    assert plan.notes == ("d.html: “nav menu” has other links than the others have, and stays.",)
    assert alike(files, name="nav menu")["d.html"] == page(menu(A, B, C))


def test_where_none_is_usual_a_model_is_asked_for():
    files = {"a.html": page(menu(A, B, C)), "b.html": page(menu(A, C, B)), "c.html": page(menu(C, B, A))}
    plan = plan_alike(site_from(files))
    assert not plan
    assert "name the page" in plan.notes[0]
    assert len(set(alike(files, model="b.html").values())) == 1
    with pytest.raises(RequestError):
        plan_alike(site_from(files), model="z.html")
    with pytest.raises(RequestError):
        plan_alike(site_from(files), name="none")


def test_indentation_and_line_ends_are_the_page_s_own():
    whole = page(menu(A, B, C))
    short = (
        page(menu(A, B, '<a href="x.html">X</a>'))
        .replace("\n", "\r\n")
        .replace("  <a", "\t\t<a")
        .replace("<nav", "\t<nav")
        .replace("</nav", "\t</nav")
    )
    done = alike({"a.html": whole, "b.html": whole, "c.html": short, "x.html": whole})
    assert "\n" not in done["c.html"].replace("\r\n", "")
    assert C in done["c.html"]


def test_of_very_many_copies_the_rare_ones_are_compared():
    files = {f"p{n}.html": page(menu(A, B, C)) for n in range(40)}
    files |= {"p7.html": page(menu(A, B)), "p9.html": page(menu(A, B, C, '<a href="p1.html">1</a>'))}
    (shared,) = find_shared(site_from(files), 10)
    assert shared.pages == 39  # one has too few links to be told
    assert [copy.page.path for copy in shared.differing] == ["p9.html"]
    assert 5 <= len(shared.copies) <= 10


def test_what_is_shared_is_told():
    files = {"a.html": page(menu(A, B, C)), "b.html": page(menu(A, B, C)), "c.html": page(menu(A, C, B))}
    (shared,) = find_shared(site_from(files))
    assert shared.name == "nav menu"
    assert [copy.page.path for copy in shared.alike] == ["a.html", "b.html"]
    assert [copy.page.path for copy in shared.differing] == ["c.html"]
