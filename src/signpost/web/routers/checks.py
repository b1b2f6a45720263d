"""How a site is checked, what is set aside, and its findings to take away."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Query, Response

from signpost.desk import check_settings
from signpost.desk.check_settings import ChecksView, ReportForm
from signpost.web.dependencies import Asked, SiteId
from signpost.web.requests import AsideBody, ChecksBody, TakenBack

router = APIRouter(prefix="/api/sites/{site_id}", tags=["checks"])

_TYPES = {
    ReportForm.HTML: "text/html; charset=utf-8",
    ReportForm.CSV: "text/csv; charset=utf-8",
    ReportForm.JSON: "application/json",
    ReportForm.SARIF: "application/sarif+json",
}


@router.get("/checks")
async def checks_of(desk: Asked, site_id: SiteId) -> ChecksView:
    """Show which rules are looked at, and what is set aside."""
    return await desk.run(check_settings.checks_of, site_id)


@router.put("/checks")
async def save_checks(desk: Asked, site_id: SiteId, body: ChecksBody) -> ChecksView:
    """Keep which rules are looked at, and how."""
    asked = (body.on, body.severities, body.limits.limits(), body.left_out)
    return await desk.run(check_settings.save_checks, site_id, *asked)


@router.post("/aside", status_code=204)
async def set_aside(desk: Asked, site_id: SiteId, body: AsideBody) -> None:
    """Set a finding aside, or all of its rule on the page or the site."""
    asked = (body.page, body.rule, body.start, body.scope, body.reason)
    await desk.run(check_settings.set_aside, site_id, *asked)


@router.post("/aside/taken-back", status_code=204)
async def take_back(desk: Asked, site_id: SiteId, body: TakenBack) -> None:
    """Look again at what was set aside."""
    await desk.run(check_settings.take_back, site_id, body.aside())


@router.get("/report", response_class=Response)
async def report(
    desk: Asked, site_id: SiteId, form: ReportForm, path: Annotated[str | None, Query(max_length=400)] = None
) -> Response:
    """Give the findings of a site, or of one page, as a file: HTML to print, CSV, JSON or SARIF 2.1.0."""
    text = await desk.run(check_settings.report, site_id, form, path)
    name = quote(f"findings.{form.value}")
    headers = {"content-disposition": f"attachment; filename={name}", "content-security-policy": "sandbox"}
    return Response(text, media_type=_TYPES[form], headers=headers)
