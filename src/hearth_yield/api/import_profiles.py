"""Import profiles: listed, renamed, deleted, taken out and in."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Response, UploadFile
from pydantic import BaseModel, Field

from hearth_yield.actions import keep_profile as profiles

from .answer import wire
from .context import Here, Id
from .schemas import Problem

router = APIRouter(prefix="/api/import-profiles", responses={422: {"model": Problem}})
MAX_PROFILE = 2 * 2**20


@wire
class ImportProfileOut:
    """kinds: of the tables it reads; settled: how many things it settles."""

    id: int
    name: str
    kept_on: str
    kinds: list[str]
    settled: int


class ProfileNameIn(BaseModel):
    name: Annotated[str, Field(max_length=200)]


@wire
class ProfileNameOut:
    name: str


@router.get("")
def all_profiles(here: Here) -> list[ImportProfileOut]:
    return [
        ImportProfileOut(
            id=p.id,
            name=p.name,
            kept_on=p.kept_on,
            kinds=list(dict.fromkeys(t["kind"] for t in p.tables)),
            settled=sum(len(t["settled"]) for t in p.tables),
        )
        for p in profiles.all_profiles(here.database)
    ]


@router.put("/{id}", status_code=204, responses={409: {"model": Problem}})
def rename(here: Here, id: Id, asked: ProfileNameIn) -> None:
    profiles.rename_profile(here.database, id, asked.name)


@router.delete("/{id}", status_code=204)
def forget(here: Here, id: Id) -> None:
    profiles.forget_profile(here.database, id)


@router.get("/{id}/export", response_class=Response)
def export(here: Here, id: Id) -> Response:
    """One JSON document that can be imported again."""
    name, raw = profiles.export_profile(here.database, id)
    safe = "".join(c for c in name if c.isascii() and (c.isalnum() or c in "- ")).strip()
    file = f"{safe or 'profile'}.json"
    return Response(
        raw,
        media_type="application/json",
        headers={"content-disposition": f'attachment; filename="{file}"'},
    )


@router.post("", status_code=201)
def import_one(here: Here, file: Annotated[UploadFile, File()]) -> ProfileNameOut:
    """Keeps a profile that was exported; one of the same name is replaced."""
    raw = file.file.read(MAX_PROFILE)
    return ProfileNameOut(name=profiles.import_profile(here.database, raw, at=here.now()))
