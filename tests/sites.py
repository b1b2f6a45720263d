"""Short ways to a site behind the API."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping

from signpost.desk.demo import demo_files


def new_site(client, files: Mapping[str, bytes], name: str = "Test") -> str:
    """Make a site of these files; return its address within the API."""
    site_id = client.post("/api/sites", json={"name": name}).json()["site_id"]
    if not files:
        return f"/api/sites/{site_id}"
    answer = client.post(
        f"/api/sites/{site_id}/files", files=[("files", (path, data)) for path, data in files.items()]
    )
    assert answer.status_code == 200, answer.text
    return f"/api/sites/{site_id}"


def demo_site(client) -> str:
    return new_site(client, demo_files(), "Demo")


def plan(client, site: str, operation: str, page: str, **parameters):
    answer = client.post(f"{site}/plans", json={"operation": operation, "page": page, **parameters})
    assert answer.status_code == 200, answer.text
    return answer.json()


def change(client, site: str, operation: str, page: str, **parameters):
    """Plan an operation and apply it."""
    tag = plan(client, site, operation, page, **parameters)["tag"]
    body = {"operation": operation, "page": page, **parameters}
    answer = client.post(f"{site}/changes", json=body, headers={"if-match": f'"{tag}"'})
    assert answer.status_code == 201, answer.text
    return answer.json()


def pages_of(client, site: str) -> dict[str, dict]:
    """The rows of a site's desk, by path."""
    answer = client.get(f"{site}/pages", params={"limit": 500})
    assert answer.status_code == 200, answer.text
    return {page["path"]: page for page in answer.json()["pages"]}


def findings_of(client, site: str) -> list[dict]:
    """All findings of a site, rule by rule."""
    found = []
    for group in client.get(f"{site}/findings").json()["groups"]:
        of_rule = client.get(f"{site}/findings/{group['rule']}", params={"limit": 500}).json()
        assert len(of_rule["findings"]) == group["count"]
        found += of_rule["findings"]
    return found


def unpacked(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def taken_out(client, site: str, kind: str = "site.zip") -> dict[str, bytes]:
    return unpacked(client.get(f"{site}/takeout/{kind}").content)


def packed(files: Mapping[str, bytes]) -> bytes:
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w", zipfile.ZIP_DEFLATED) as archive:
        for path, content in files.items():
            archive.writestr(path, content)
    return data.getvalue()
