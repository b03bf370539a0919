"""The one list of calculations: the page, the API and the command line are doors to these.

Importing this module registers them all: every module of the rooms below is imported, so that a new one needs no second
list.
"""

import pkgutil
from importlib import import_module

import nomisma.core
from nomisma.core.calculation import BadInput, Calculation, registered
from nomisma.core.errors import NotDefined

_ROOMS = ("cutting", "fits", "joints", "lengths", "measuring", "planning", "quantity", "truing")
import_module("nomisma.core.entry_line")
for _room in _ROOMS:
    for _module in pkgutil.iter_modules(import_module(f"{nomisma.core.__name__}.{_room}").__path__):
        import_module(f"{nomisma.core.__name__}.{_room}.{_module.name}")


def calculations() -> dict[str, Calculation]:
    """Every calculation by name, in alphabetical order. Source: none, bookkeeping.

    >>> list(calculations())[:2]
    ['aim', 'amount_to_take']
    """
    return registered()


def build_models() -> None:
    """Build what checks the inputs and results of all calculations, once, before several threads ask for it.

    Source: none, bookkeeping.

    >>> build_models()
    """
    for one in registered().values():
        one.input_model.model_rebuild()
        one.result_model.model_rebuild()


def calculation_named(name: str) -> Calculation:
    """The calculation of that name. Raises BadInput with the list of names.

    Source: none, bookkeeping.

    >>> calculation_named("verdict").title
    'A reading against its limits'
    """
    try:
        return registered()[name]
    except KeyError:
        known = ", ".join(registered())
        error = NotDefined(f"There is no calculation “{name[:40]}”.", f"There are: {known}.", field="name", value=name)
        raise BadInput([error]) from None
