"""What is done to many pages at once: pages left out, recipes kept, own addresses, navigation, the link map."""

from sites import change, new_site, plan

MENU = "<nav class=main><a href=a.html>A</a> <a href=b.html>B</a> <a href=c.html>C</a></nav>"


def page(title: str) -> bytes:
    return f"<!DOCTYPE html><html lang=en><title>{title}</title>\n<body>\n{MENU}\n<main>\n<h1>{title}</h1>\n</main>\n".encode()


FILES = {f"{name}.html": page(name.upper()) for name in "abcd"}
RECIPE = 'name = "Tidy"\n[[step]]\ndo = "identify"\nlevels = [1]\n'


def source(client, site: str, path: str) -> str:
    return client.get(f"{site}/source", params={"path": path}).json()["text"]


def test_pages_can_be_left_out_of_a_change(client):
    site = new_site(client, FILES)
    whole = plan(client, site, "recipe", "a.html", text=RECIPE)
    assert len(whole["files"]) == 4
    less = plan(client, site, "recipe", "a.html", text=RECIPE, without=["b.html", "c.html"])
    assert [file["path"] for file in less["files"]] == ["a.html", "d.html"]
    assert less["tag"] != whole["tag"]
    change(client, site, "recipe", "a.html", text=RECIPE, without=["b.html", "c.html"])
    assert "id=" not in source(client, site, "b.html")
    assert "id=" in source(client, site, "d.html")


def test_recipes_are_kept_with_the_site_by_their_names(client):
    site = new_site(client, FILES)
    assert client.get(f"{site}/recipes").json() == []
    assert client.put(f"{site}/recipes", json={"text": RECIPE}).json() == [{"name": "Tidy", "text": RECIPE}]
    again = RECIPE.replace("[1]", "[2]")
    assert client.put(f"{site}/recipes", json={"text": again}).json() == [{"name": "Tidy", "text": again}]
    nameless = client.put(f"{site}/recipes", json={"text": RECIPE.partition("\n")[2]})
    assert (nameless.status_code, "needs a name" in nameless.json()["detail"]) == (422, True)
    wrong = client.put(f"{site}/recipes", json={"text": RECIPE.replace("identify", "fly")})
    assert (wrong.status_code, "do is one of" in wrong.json()["detail"]) == (422, True)
    assert client.delete(f"{site}/recipes", params={"name": "Tidy"}).json() == []


def test_navigation_is_told_and_made(client):
    site = new_site(client, FILES)
    found = client.get(f"{site}/navigation").json()
    assert [one["path"] for one in found["pages"]] == ["a.html", "b.html", "c.html", "d.html"]
    assert [(one["block"], one["pages"], one["order"]) for one in found["menus"]] == [
        ("nav main", 4, ["a.html", "b.html", "c.html"])
    ]
    change(client, site, "navigation", "a.html", kind="steps", pages=["a.html", "d.html"])
    assert '<a href="a.html" rel="prev">A</a>'.replace('"', "") in source(client, site, "d.html").replace('"', "")
    assert client.get(f"{site}/navigation").json()["steps"] == 2
    change(client, site, "navigation", "a.html", kind="contents", home="d.html")
    assert client.get(f"{site}/navigation").json()["contents"] == "d.html"


def test_the_map_and_the_links_between_two_pages(client):
    site = new_site(client, {**FILES, "e.html": b"<p><a href='a.html#no'>x</a>"})
    found = client.get(f"{site}/map").json()
    assert {page["path"]: page["pages_in"] for page in found["pages"]}["a.html"] == 4
    links = client.get(f"{site}/map/links", params={"source": "e.html", "goal": "a.html"}).json()
    assert [(link["line"], link["words"], link["state"]) for link in links] == [(1, "x", "no target")]
    assert client.get(f"{site}/map/links", params={"source": "z.html", "goal": "a.html"}).status_code == 404
    taken = client.get(f"{site}/takeout/map.graphml")
    assert taken.headers["content-type"].startswith("application/graphml+xml")
    assert taken.text.count("<node ") == 5


def test_blocks_are_shown_with_what_differs_and_put_where_they_lack(client):
    less = FILES["c.html"].replace(b">C</a>", b">Coal</a>")
    files = {**FILES, "c.html": less, "e.html": b"<!DOCTYPE html><body>\n<main>\n<h1>E</h1>\n</main>\n"}
    site = new_site(client, {**files, "e.html": files["e.html"].replace(b"<body>", b"<title>E</title>\n<body>")})
    (block,) = client.get(f"{site}/shared").json()
    assert [(one["page"], one["changes"]) for one in block["differing"]] == [
        ("c.html", [{"has": "oal", "usual": ""}])
    ]
    assert block["lacking"] == ["e.html"]
    change(client, site, "spread", "a.html", block=block["name"], model=block["usual"], pages=block["lacking"])
    assert "nav class=main" in source(client, site, "e.html")


def test_a_jump_link_gets_one_back(client):
    one = b"<!DOCTYPE html><html lang=en><title>A</title>\n<h1 id=t>A</h1>\n<p>See the fire.</p>\n"
    other = b"<!DOCTYPE html><html lang=en><title>B</title>\n<h1 id=u>B</h1>\n<h2 id=fire>Fire</h2>\n<p>x</p>\n"
    site = new_site(client, {"a.html": one, "b.html": other})
    start = one.index(b"fire")
    change(client, site, "jump", "a.html", start=start, end=start + 4, to_page="b.html", identifier="fire", back=True)
    assert "href=b.html#fire" in source(client, site, "a.html").replace('"', "")
    assert "See also: <a href=a.html#t>A</a>" in source(client, site, "b.html").replace('"', "")
    change(client, site, "pair", "b.html", section=0, to_page="a.html", to_section=0)
    assert source(client, site, "a.html").count("see-also") == 1


def test_own_addresses_are_made_relative_on_all_pages(client):
    files = {"a.html": b"<p><a href='https://line.example/v/b.html#x'>x</a>", "b.html": b"<p id=x>x"}
    site = new_site(client, files)
    refused = client.post(f"{site}/plans", json={"operation": "own-addresses", "page": "a.html"})
    assert refused.status_code == 422
    client.put(site, json={"name": "Line", "base": "https://line.example/v/"})
    change(client, site, "own-addresses", "a.html")
    assert source(client, site, "a.html") == "<p><a href='b.html#x'>x</a>"
