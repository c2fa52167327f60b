"""The two addresses of everything that can be removed: take it away, and have it back."""

from __future__ import annotations

import re
from inspect import Parameter, Signature
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router, Status

from server.wire import owned
from server.wire.owned import Owned, owner_of
from server.wire.problems import Problem


def removable(router: Router, path: str, model: type[Owned], noun: str) -> None:
    """Add DELETE `path` and POST `path`/restore to a router, as `delete<noun>` and `restore<noun>`.

    `path` ends with the row's id in braces, such as `/packs/{item_id}`.
    """
    answers: dict[int, Any] = {204: None, 404: Problem}

    def delete(request: HttpRequest, **row: UUID) -> Status[None]:
        owned.remove(model, owner_of(request), *row.values())
        return Status(204, None)

    def restore(request: HttpRequest, **row: UUID) -> Status[None]:
        owned.restore(model, owner_of(request), *row.values())
        return Status(204, None)

    for view in (delete, restore):
        view.__name__ = f"{view.__name__}_{noun.lower()}"
        view.__signature__ = _signature(path)  # type: ignore[attr-defined]
    delete.__doc__ = f"Remove a {noun.lower()}; you can bring it back for thirty days."
    restore.__doc__ = f"Bring back a {noun.lower()} that was removed."
    router.delete(path, operation_id=f"delete{noun}", response=answers)(delete)
    back = {**answers, 409: Problem}
    router.post(f"{path}/restore", operation_id=f"restore{noun}", response=back)(restore)


def _signature(path: str) -> Signature:
    """Of a view whose one argument is named as in the path."""
    (name,) = re.findall(r"\{(\w+)\}", path)
    kind = Parameter.POSITIONAL_OR_KEYWORD
    parameters = [("request", HttpRequest), (name, UUID)]
    return Signature([Parameter(one, kind, annotation=of) for one, of in parameters])
