"""The operations as requests ask for them: a body for each, made of what the core declares."""

from __future__ import annotations

from dataclasses import MISSING, Field, fields
from typing import TYPE_CHECKING, Annotated, Any, Literal, Union, get_type_hints

from pydantic import Field as BodyField
from pydantic import create_model

from signpost.core.operations import OPERATIONS, Operation
from signpost.core.operations.operation import PagePath
from signpost.web.requests import Body


class OperationBody(Body):
    """An operation that is asked for on a page."""

    page: PagePath
    operation: str

    def asked(self) -> Operation:
        """Return the operation."""
        kind = OPERATIONS[self.operation]
        return kind(**{one.name: getattr(self, one.name) for one in fields(kind)})


def _body_of(kind: type[Operation]) -> type[OperationBody]:
    """Return the body that asks for a kind of operation."""
    hints = get_type_hints(kind, include_extras=True)
    said: dict[str, Any] = {one.name: (hints[one.name], _usual(one)) for one in fields(kind)}
    said["operation"] = (Literal[kind.does], ...)
    return create_model(kind.__name__, __base__=OperationBody, __doc__=kind.__doc__, **said)


def _usual(one: Field[Any]) -> Any:
    """Return what a field is where nothing is said of it, as bodies declare it."""
    if one.default_factory is not MISSING:
        return BodyField(default_factory=one.default_factory)
    return ... if one.default is MISSING else one.default


if TYPE_CHECKING:
    OperationRequest = OperationBody
else:
    #: The body of any operation, told apart by `operation`.
    OperationRequest = Annotated[
        Union[tuple(_body_of(kind) for kind in OPERATIONS.values())],  # noqa: UP007 - of as many as there are
        BodyField(discriminator="operation"),
    ]
