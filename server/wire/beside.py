"""Two routers whose addresses are the same, each with its own methods."""

from __future__ import annotations

from ninja import Router
from ninja.operation import PathView


def beside(*routers: Router) -> Router:
    """One router with the operations of several, so that they may share addresses.

    Parameters
    ----------
    routers : each with tags of its own, which its operations keep

    Returns
    -------
    Router; addresses of words alone come first, so that no word is taken for an id

    Notes
    -----
    Django asks the first pattern that fits an address and no other: two routers with one address would
    hide each other's methods.
    """
    views: dict[str, PathView] = {}
    for router in routers:
        for path, view in router.path_operations.items():
            shared = views.setdefault(path, PathView())
            for operation in view.operations:
                operation.tags = operation.tags or router.tags
                shared.operations.append(operation)
    found = Router()
    for path in sorted(views, key=lambda path: "{" in path):
        found.path_operations[path] = views[path]
    return found
