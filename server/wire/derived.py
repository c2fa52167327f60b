"""Schemas derived from the core's dataclasses: what the core says, the API says, under one list of fields."""

from __future__ import annotations

import types
from collections.abc import Callable, Mapping
from dataclasses import MISSING, fields, is_dataclass
from typing import (
    TYPE_CHECKING,
    Annotated,
    Any,
    Literal,
    TypeVar,
    Union,
    get_args,
    get_origin,
    get_type_hints,
)

from pydantic import create_model

from limpet.notices import Notice
from limpet.quantity import Quantity
from server.wire.notices import NoticeOut
from server.wire.schema import Schema

S = TypeVar("S", bound=Schema)


class Derived(Schema):
    """A schema whose further fields are a core dataclass's; see `derived`."""

    if TYPE_CHECKING:

        def __getattr__(self, name: str) -> Any: ...


class QuantityOut(Derived):
    """A value with unit, standard uncertainty and 95% interval."""

    value: float
    unit: str
    standard_uncertainty: float
    low: float
    high: float
    coverage: float


_known: dict[type, type[Schema]] = {Quantity: QuantityOut, Notice: NoticeOut}


def derived(core: type, *, without: tuple[str, ...] = ()) -> Callable[[type[S]], type[S]]:
    """Give a schema the fields of a dataclass: tuples as lists, literals as enums.

    Parameters
    ----------
    core : a dataclass of the core, whose parts were derived before it
    without : fields that do not go out; those that the schema has itself stay as they are there

    Raises
    ------
    TypeError
        When a field is of a kind that no schema stands for.
    """

    def fill(schema: type[S]) -> type[S]:
        hints = get_type_hints(core, include_extras=True)
        wanted = [item for item in fields(core) if item.name not in without]
        own = schema.model_fields
        found = filled(
            {
                item.name: (_outward(hints[item.name]), _default(item))
                for item in wanted
                if item.name not in own
            }
        )(schema)
        _known.setdefault(core, found)
        return found

    return fill


def _default(item: Any) -> Any:
    """A field that came later has a default, so that what was kept before can still be read."""
    if item.default is MISSING:
        return ...
    return list(item.default) if isinstance(item.default, tuple) else item.default


def filled(more: Mapping[str, tuple[Any, Any]]) -> Callable[[type[S]], type[S]]:
    """Give a schema further fields out of a table: name → type and default, `...` where it must be.

    Those that the schema has itself stay as they are there.
    """

    def fill(schema: type[S]) -> type[S]:
        found: dict[str, Any] = {n: f for n, f in more.items() if n not in schema.model_fields}
        made: type[S] = create_model(
            schema.__name__,
            __base__=schema,
            __doc__=schema.__doc__,
            __module__=schema.__module__,
            **found,
        )
        return made

    return fill


def _outward(kind: Any) -> Any:
    """A type of the core as it goes out."""
    if kind in _known:
        return _known[kind]
    origin, parts = get_origin(kind), get_args(kind)
    if origin is Annotated:
        return _outward(parts[0])
    if origin in (Union, types.UnionType):
        return Union[tuple(_outward(part) for part in parts)]  # noqa: UP007
    if origin in (tuple, list):
        return types.GenericAlias(list, (_outward(parts[0]),))
    if origin in (dict, Mapping):
        return types.GenericAlias(dict, tuple(_outward(part) for part in parts))
    if origin is Literal or kind in (str, int, float, bool, types.NoneType):
        return kind
    what = "derive it first" if is_dataclass(kind) else "no schema stands for it"
    raise TypeError(f"{kind} cannot go out: {what}")
