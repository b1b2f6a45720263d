"""What an author asks while choosing, and what is settled for a site."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from signpost.core.headings.spoken import SpokenHeading
from signpost.core.identifiers.places import Place
from signpost.core.identifiers.sections import Judgement
from signpost.desk import places
from signpost.desk.places import BlockView, RegionsView
from signpost.desk.settings import Regions
from signpost.web.dependencies import Asked, PathQuery, SiteId
from signpost.web.requests import NamedEncoding, Refusal, RegionsBody, SiteSettings

router = APIRouter(prefix="/api/sites/{site_id}", tags=["places"])

Name = Annotated[str, Query(max_length=400)]


@router.get("/judgement")
async def judge(
    desk: Asked, site_id: SiteId, path: PathQuery, name: Name, own: Name = "", words: Name = ""
) -> Judgement:
    """Judge an identifier that is being typed; `own` is the one that its element has now."""
    return await desk.run(places.judge, site_id, path, name, own=own, words=words)


@router.get("/places")
async def places_at(
    desk: Asked,
    site_id: SiteId,
    path: PathQuery,
    start: Annotated[int | None, Query(ge=0)] = None,
    line: Annotated[int, Query(ge=1)] = 1,
    column: Annotated[int, Query(ge=1)] = 1,
) -> list[Place]:
    """List the elements at a place that can be pointed to, innermost first."""
    return await desk.run(places.places_at, site_id, path, start=start, line=line, column=column)


@router.get("/blocks")
async def blocks_of(desk: Asked, site_id: SiteId, path: PathQuery) -> list[BlockView]:
    """List the blocks of a page that a heading can be put before."""
    return await desk.run(places.blocks_of, site_id, path)


@router.get("/spoken-headings")
async def spoken_headings(desk: Asked, site_id: SiteId, path: PathQuery) -> list[SpokenHeading]:
    """List a page's headings as the user of a screen reader hears them."""
    return await desk.run(places.spoken_headings, site_id, path)


@router.get("/regions")
async def regions_of(desk: Asked, site_id: SiteId, path: PathQuery) -> RegionsView:
    """List the regions of a page that may be content or furniture."""
    return await desk.run(places.regions_of, site_id, path)


@router.put("/regions", status_code=204)
async def set_regions(desk: Asked, site_id: SiteId, body: RegionsBody) -> None:
    """Remember what is content and what is furniture, on a page or on all."""
    regions = Regions(body.content or None, tuple(body.furniture), tuple(body.own))
    await desk.run(places.set_regions, site_id, body.path, regions)


@router.put("/encoding", status_code=204)
async def name_encoding(desk: Asked, site_id: SiteId, body: NamedEncoding) -> None:
    """Have a page read in an encoding, whatever it declares; without one, as it declares."""
    await desk.run(places.name_encoding, site_id, body.path, body.encoding)


@router.put("/refusals", status_code=204)
async def refuse(desk: Asked, site_id: SiteId, body: Refusal) -> None:
    """Remember that a look-alike is not a heading, or forget it."""
    await desk.run(places.refuse_lookalike, site_id, body.path, body.key, refused=body.refused)


@router.get("/settings")
async def settings_of(desk: Asked, site_id: SiteId) -> SiteSettings:
    """Give a site's settings."""
    return SiteSettings.of(await desk.run(places.settings_of, site_id))


@router.put("/settings")
async def save_settings(desk: Asked, site_id: SiteId, body: SiteSettings) -> SiteSettings:
    """Keep a site's settings."""
    return SiteSettings.of(await desk.run(places.save_settings, site_id, body.settings()))
