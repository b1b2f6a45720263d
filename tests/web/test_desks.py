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


@pytest.mark.parametrize("how", ["no zip", "no list", "missing", "changed", "path", "newer"])
def test_a_damaged_desk_is_refused_whole(client, how):
    files = contents(packed(client, new_site(client, {"a.html": b"<p>a"})))
    said = json.loads(files["desk.json"])
    (name,) = [one for one in files if one.startswith("bytes/")]
    if how == "no list":
        del files["desk.json"]
    elif how == "missing":
        del files[name]
    elif how == "changed":
        files[name] = b"other"
    elif how == "path":
        said["files"][0]["path"] = "../a.html"
    elif how == "newer":
        said["form"] = 2
    if "desk.json" in files:
        files["desk.json"] = json.dumps(said).encode()
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
