"""What goes over the wire, without a look at the ORM."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Schema(BaseModel):
    """A shape of the API that is made of plain values.

    Ninja's own Schema wraps every value of every shape to resolve querysets and templates in it;
    a list of fifty tests spent most of its time there. Shapes that read rows with resolvers still
    use that one.
    """

    model_config = ConfigDict(from_attributes=True)


class Sent(Schema):
    """What a client sends: nothing beside its fields, no blanks around its words."""

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)
