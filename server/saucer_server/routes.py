"""The routes of the interface, as its declarations have them."""

from collections.abc import Iterator
from functools import cache

from ninja.operation import Operation

from .marks import is_computing


def operations() -> Iterator[tuple[str, str, Operation]]:
    """Method, route (as Django's resolver names it), and operation of everything that the interface
    answers."""
    # The interface imports every app; this module is read before any of them.
    from .api import api

    for prefix, router in api._routers:
        for path, view in router.path_operations.items():
            route = "/".join(part.strip("/") for part in ("api", prefix, path) if part.strip("/"))
            for operation in view.operations:
                for method in operation.methods:
                    yield method, route.replace("{", "<").replace("}", ">"), operation


@cache
def taking_files() -> frozenset[tuple[str, str]]:
    """Method and route of what takes files."""
    return frozenset(
        (method, route)
        for method, route, operation in operations()
        if any(model.__ninja_param_source__ == "file" for model in operation.models)
    )


@cache
def computing() -> frozenset[tuple[str, str]]:
    """Method and address of what is marked by ``marks.computes``; none of these addresses has a part that
    varies."""
    return frozenset(
        (method, f"/{route}")
        for method, route, operation in operations()
        if is_computing(operation.view_func)
    )
