"""A site published, and looked at as readers get it."""

from __future__ import annotations

from functools import partial
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request, Response

from signpost.desk import live, publication_plans, publishing, targets
from signpost.desk.live import LiveView
from signpost.desk.publication_plans import PublishPlan
from signpost.desk.publishing import Published
from signpost.desk.targets import Surroundings, TargetView
from signpost.hosting.practice_settings import Way
from signpost.store.records import TargetRecord
from signpost.web.dependencies import Asked, Line, LinesResponse, SiteId
from signpost.web.requests import PublishBody, TargetBody

router = APIRouter(prefix="/api/sites/{site_id}/targets", tags=["publishing"])

Name = Annotated[str, Query(min_length=1, max_length=100)]
_TEXT = {"text/plain": {"schema": {"type": "string"}}}


def _reach(request: Request) -> Surroundings:
    reach: Surroundings = request.app.state.reach
    return reach


@router.get("")
async def list_targets(desk: Asked, request: Request, site_id: SiteId) -> list[TargetView]:
    """List the places that the site is published to."""
    return await desk.run(targets.list_targets, site_id, _reach(request))


@router.put("")
async def save_target(desk: Asked, request: Request, site_id: SiteId, body: TargetBody) -> list[TargetView]:
    """Keep a place to publish to; a secret is written and never read again."""
    target = TargetRecord(body.name, body.kind, body.address, body.user_name, body.live)
    way = Way(body.delay, body.bandwidth, body.charset)
    return await desk.run(targets.save_target, site_id, target, body.secret, _reach(request), way, body.was)


@router.delete("")
async def delete_target(desk: Asked, request: Request, site_id: SiteId, name: Name) -> list[TargetView]:
    """Forget a place to publish to; what is there stays."""
    return await desk.run(targets.delete_target, site_id, name, _reach(request))


@router.post("/plan", response_class=LinesResponse, responses={200: {"model": Line[PublishPlan]}})
async def plan_publication(
    desk: Asked, request: Request, site_id: SiteId, name: Name, anyway: bool = False, thorough: bool = False
) -> LinesResponse:
    """Show what publishing would do; nothing is sent. The target is asked what it has; thoroughly, for every byte."""
    work = partial(publication_plans.plan_publication, anyway=anyway, thorough=thorough)
    return desk.stream(work, site_id, name, _reach(request))


@router.get("/diff", response_class=Response, responses={200: {"content": _TEXT}})
async def diff_publication(
    desk: Asked, request: Request, site_id: SiteId, name: Name, path: Annotated[str, Query(max_length=400)]
) -> Response:
    """Show how a file differs from the one that is there, as a unified diff; nothing for files that are no text."""
    text = await desk.run(publication_plans.diff_publication, site_id, name, path, _reach(request))
    return Response(text, media_type="text/plain")


@router.post("/publish", response_class=LinesResponse, responses={200: {"model": Line[Published]}})
async def publish(desk: Asked, request: Request, site_id: SiteId, body: PublishBody) -> LinesResponse:
    """Publish as was shown; lines of JSON tell how far that has come, and at last what was done."""
    work = partial(publishing.publish, anyway=body.anyway, thorough=body.thorough)
    return desk.stream(work, site_id, body.name, body.tag, _reach(request))


@router.post("/undo", response_class=LinesResponse, responses={200: {"model": Line[Published]}})
async def undo_publication(desk: Asked, request: Request, site_id: SiteId, name: Name) -> LinesResponse:
    """Bring a target back to what it had before the last publication, telling how far that has come."""
    return desk.stream(publishing.undo_publication, site_id, name, _reach(request))


@router.post("/walk", response_class=LinesResponse, responses={200: {"model": Line[LiveView]}})
async def walk_site(desk: Asked, request: Request, site_id: SiteId, name: Name) -> LinesResponse:
    """Walk the published site as readers get it, telling how far that has come, and at last a LiveView."""
    return desk.stream(live.walk_site, site_id, name, _reach(request))


@router.get("/walk")
async def view_walk(desk: Asked, request: Request, site_id: SiteId, name: Name) -> LiveView:
    """Show what the last walk found, or has found so far where it was stopped."""
    return await desk.run(live.view_walk, site_id, name, _reach(request))


@router.get("/redirects", response_class=Response, responses={200: {"content": _TEXT}})
async def redirects_of(
    desk: Asked, site_id: SiteId, name: Name, form: Literal["csv", "pairs", "apache", "nginx"] = "csv"
) -> Response:
    """Export redirects from where pages were at the last publication to where they are now."""
    text = await desk.run(live.redirects_of, site_id, name, form)
    file = {"csv": "redirects.csv", "pairs": "redirects.txt", "apache": "redirects-apache.conf"}
    headers = {"content-disposition": f"attachment; filename={file.get(form, 'redirects-nginx.conf')}"}
    return Response(text, media_type="text/plain", headers=headers)
