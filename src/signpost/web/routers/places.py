"""What an author asks while choosing, and what is settled for a site."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from signpost.core.identifiers import Judgement
from signpost.core.places import Place
from signpost.core.spoken import Spoken
from signpost.desk import places
from signpost.desk.places import BlockView, RegionsView
from signpost.desk.settings import Regions
from signpost.web.dependencies import Data, PathQuery, SiteId
from signpost.web.requests import Refusal, SaidRegions, SiteSettings

router = APIRouter(prefix="/api/sites/{site_id}", tags=["places"])

Name = Annotated[str, Query(max_length=400)]


@router.get("/judgement")
def judge(
    database: Data, site_id: SiteId, path: PathQuery, name: Name, own: Name = "", words: Name = ""
) -> Judgement:
    """Judge an identifier that is being typed; `own` is the one that its element has now."""
    return places.judge(database, site_id, path, name, own=own, words=words)


@router.get("/places")
def places_at(
    database: Data,
    site_id: SiteId,
    path: PathQuery,
    start: Annotated[int | None, Query(ge=0)] = None,
    line: Annotated[int, Query(ge=1)] = 1,
    column: Annotated[int, Query(ge=1)] = 1,
) -> list[Place]:
    """List the elements at a place that can be pointed to, innermost first."""
    return places.places_at(database, site_id, path, start=start, line=line, column=column)


@router.get("/blocks")
def blocks_of(database: Data, site_id: SiteId, path: PathQuery) -> list[BlockView]:
    """List the blocks of a page that a heading can be put before."""
    return places.blocks_of(database, site_id, path)


@router.get("/heard")
def hear(database: Data, site_id: SiteId, path: PathQuery) -> list[Spoken]:
    """List a page's headings as the user of a screen reader hears them."""
    return places.hear(database, site_id, path)


@router.get("/regions")
def regions_of(database: Data, site_id: SiteId, path: PathQuery) -> RegionsView:
    """List the regions of a page that may be content or furniture."""
    return places.regions_of(database, site_id, path)


@router.put("/regions", status_code=204)
def say_regions(database: Data, site_id: SiteId, body: SaidRegions) -> None:
    """Remember what is content and what is furniture, on a page or on all."""
    regions = Regions(body.content or None, tuple(body.chrome), tuple(body.own))
    places.say_regions(database, site_id, body.path, regions)


@router.put("/refusals", status_code=204)
def refuse(database: Data, site_id: SiteId, body: Refusal) -> None:
    """Remember that a look-alike is no heading, or forget it."""
    places.refuse_lookalike(database, site_id, body.path, body.key, again=body.again)


@router.get("/settings")
def settings_of(database: Data, site_id: SiteId) -> SiteSettings:
    """Give a site's settings."""
    return SiteSettings.of(places.settings_of(database, site_id))


@router.put("/settings")
def save_settings(database: Data, site_id: SiteId, body: SiteSettings) -> SiteSettings:
    """Keep a site's settings."""
    return SiteSettings.of(places.save_settings(database, site_id, body.settings()))
