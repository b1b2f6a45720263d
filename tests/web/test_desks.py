"""A site's desk taken to another installation and back, and what a site contains in open forms."""

import io
import json
import zipfile

import pytest

from signpost.core.forms.writing import FORMS
from sites import change, demo_site, new_site


def packed(client, site: str) -> bytes:
    answer = client.get(f"{site}/takeout/desk.zip")
    assert answer.status_code == 200
    return answer.content


def contents(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def unpack(client, data: bytes):
    return client.post("/api/sites/desks", files={"file": ("desk.zip", data)})


def test_a_desk_goes_there_and_back(client):
    site = demo_site(client)
    change(client, site, "identify", "handbook.html", levels=[2])
    change(client, site, "move-files", "index.html", moves={"safety.html": "rules/safety.html"})
    client.post(f"{site}/changes/2/undo")
    client.put(f"{site}/recipes", json={"text": 'name = "R"\n[[step]]\ndo = "fix"\n'})
    data = packed(client, site)
    answer = unpack(client, data)
    assert answer.status_code == 201, answer.text
    other = f"/api/sites/{answer.json()['site_id']}"
    assert contents(packed(client, other)) == contents(data)
    assert client.post(f"{other}/changes/2/redo").status_code == 204
    assert client.post(f"{other}/changes/2/undo").status_code == 204
    assert client.post(f"{other}/changes/1/undo").status_code == 204
    assert client.get(f"{other}/recipes").json()[0]["name"] == "R"


#: What an archive's list says in the place of what it said, none of which a desk says.
ODD = {
    "path": lambda said: said["files"][0].update(path="../a.html"),
    "newer": lambda said: said.update(form=2),
    "a file twice": lambda said: said["files"].append(said["files"][0]),
    "a change twice": lambda said: said["changes"].append(said["changes"][0]),
    "a path twice in a change": lambda said: said["changes"][0]["files"].append(said["changes"][0]["files"][0]),
    "moves that are none": lambda said: said["changes"][0]["parameters"].update(moves=[1, 2, 3]),
    "moves to nowhere": lambda said: said["changes"][0]["parameters"].update(moves={"a.html": None}),
    "a lone surrogate": lambda said: said["changes"][0].update(title="\ud800"),
    "a NUL": lambda said: said["changes"][0].update(title="a\0b"),
    "a NUL in the settings": lambda said: said["settings"].update(x="a\0b"),
    "no number": lambda said: said["changes"][0].update(number=-1),
    "a number beyond all": lambda said: said["changes"][0].update(number=10**30),
    "edits beyond all": lambda said: said["changes"][0].update(edits=10**12),
    "not a number": lambda said: said["changes"][0]["parameters"].update(x=float("nan")),
    "a day without a zone": lambda said: said["changes"][0].update(created_at="2026-01-01T00:00:00"),
    "a hash that is none": lambda said: said["changes"][0]["files"][0].update(after_sha256="x"),
    "an address that is none": lambda said: said.update(base="no address"),
}


@pytest.mark.parametrize("how", ["no zip", "no list", "missing", "changed", "brackets", *ODD])
def test_a_damaged_desk_is_refused_whole(client, how):
    site = new_site(client, {"a.html": b"<h2>a</h2>"})
    change(client, site, "identify", "a.html")
    files = contents(packed(client, site))
    said = json.loads(files["desk.json"])
    name = min(one for one in files if one.startswith("bytes/"))
    if how == "no list":
        del files["desk.json"]
    elif how == "missing":
        del files[name]
    elif how == "changed":
        files[name] = b"other"
    elif how in ODD:
        ODD[how](said)
    if "desk.json" in files:
        files["desk.json"] = b"[" * 100_000 if how == "brackets" else json.dumps(said).encode()
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as archive:
        for path, data in files.items():
            archive.writestr(path, data)
    before = len(client.get("/api/sites").json())
    answer = unpack(client, b"nothing" if how == "no zip" else made.getvalue())
    assert (answer.status_code, "xport it again" in answer.json()["detail"]) == (409, True)
    assert len(client.get("/api/sites").json()) == before


@pytest.mark.parametrize("form", FORMS)
def test_every_form_is_taken_out(client, form):
    site = new_site(client, {"a.html": b"<title>A</title><h1 id=x>Boilers</h1>"})
    client.put(site, json={"name": "A", "base": "https://line.example/"})
    answer = client.get(f"{site}/takeout/{form}")
    assert answer.status_code == 200
    assert answer.headers["content-type"] == FORMS[form][1]
    assert "a.html" in answer.text
