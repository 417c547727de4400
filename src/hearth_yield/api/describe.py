"""The API's own description: every answer there can be, refusals among them."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

REFUSALS = {
    "400": "The request cannot be read",
    "403": "Asked by another page or host than this machine's own",
    "404": "Not found, or no such address",
    "405": "Not for this method",
    "409": "Not possible as things stand",
    "413": "Too large",
    "422": "A value was not accepted",
    "500": "Something went wrong here, or with the database file",
    "503": "Another task is writing",
    "507": "The disk is full",
}
PROBLEM = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}


def described(app: FastAPI) -> dict[str, Any]:
    """OpenAPI; made once. Every operation may be refused, always as problem+json."""
    if app.openapi_schema is None:
        schema = get_openapi(
            title=app.title,
            version=app.version,
            routes=app.routes,
            separate_input_output_schemas=False,
        )
        for path in schema["paths"].values():
            for operation in path.values():
                for status, words in REFUSALS.items():
                    operation["responses"][status] = {"description": words, "content": PROBLEM}
        for unused in ("HTTPValidationError", "ValidationError"):
            schema["components"]["schemas"].pop(unused, None)
        app.openapi_schema = schema
    return app.openapi_schema
