"""Terms for entry lists, read from what an author pastes or brings in."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, UploadFile

from signpost.desk import terms
from signpost.desk.terms import TermView
from signpost.web.requests import PastedTerms

router = APIRouter(prefix="/api/terms", tags=["terms"])


@router.post("")
def read_terms(body: PastedTerms) -> list[TermView]:
    """Read terms from text: a line each, or a table with tabs or named columns."""
    return terms.read_pasted(body.text)


@router.post("/file")
def read_file(file: Annotated[UploadFile, File()]) -> list[TermView]:
    """Read terms from a file: lines, CSV, TSV or XLSX."""
    return terms.read_file(file.file.read(terms.FILE_BYTES + 1))
