"""Every door of the application: its method and path, as the routers have them."""

from typing import Any


def doors_of(app: Any) -> list[tuple[str, str]]:
    """Method and path of every route, in order; static files apart."""
    found: set[tuple[str, str]] = set()
    for entry in app.routes:
        routes = entry.original_router.routes if hasattr(entry, "original_router") else [entry]
        for route in routes:
            for method in getattr(route, "methods", None) or ():
                if method != "HEAD":
                    found.add((method, route.path))
    return sorted(found, key=lambda door: (door[1], door[0]))
