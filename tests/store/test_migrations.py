"""Tables of earlier versions: brought to the newest form with all that is in them."""

from __future__ import annotations

from pathlib import Path

import pytest
from alembic import command
from alembic.config import Config

from signpost.desk import intake, pages, working
from signpost.desk.demo import demo_files
from signpost.store import database as store


def go_back(database, revision):
    """Bring the tables back to an earlier form."""
    config = Config()
    config.set_main_option("script_location", str(Path(store.__file__).parent / "migrations"))
    with database.engine.begin() as connection:
        config.attributes["connection"] = connection
        command.downgrade(config, revision)


@pytest.mark.parametrize("revision", ["0013", "0012", "0010"])
def test_a_site_of_an_earlier_version_is_shown_as_it_was(own, revision):
    site_id = intake.create_site(own, "Kept").site_id
    intake.bring_in_files(own, site_id, demo_files().items())
    while working.work_off(own, site_id):
        pass
    findings = pages.findings_of_site(own, site_id, "")
    assert len(findings.groups) > 10
    assert findings.fixable > 10
    shown = pages.open_page(own, site_id, "handbook.html")
    go_back(own, revision)
    own.migrate()
    while working.work_off(own, site_id):
        pass
    assert pages.findings_of_site(own, site_id, "") == findings
    assert pages.open_page(own, site_id, "handbook.html") == shown
