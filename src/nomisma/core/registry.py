"""The one list of calculations: the page, the API and the command line are doors to these.

Importing this module registers them all.
"""

from nomisma.core import entry_line as _entry_line
from nomisma.core.calculation import BadInput, Calculation, registered
from nomisma.core.cutting import amount as _amount
from nomisma.core.cutting import boring_bar as _boring_bar
from nomisma.core.cutting import clean_up as _clean_up
from nomisma.core.cutting import deflection as _deflection
from nomisma.core.cutting import drill_sizes as _drill_sizes
from nomisma.core.cutting import facing as _facing
from nomisma.core.cutting import hole as _hole
from nomisma.core.cutting import next_cut as _next_cut
from nomisma.core.cutting import shoulder as _shoulder
from nomisma.core.cutting import speeds as _speeds
from nomisma.core.errors import NotDefined
from nomisma.core.fits import costed_aim as _aim
from nomisma.core.fits import find as _find
from nomisma.core.fits import fit as _fit
from nomisma.core.fits import options as _options
from nomisma.core.fits import seating as _seating
from nomisma.core.fits import suit as _suit
from nomisma.core.fits import together as _together
from nomisma.core.joints import assembly as _assembly
from nomisma.core.joints import bush as _bush
from nomisma.core.joints import compound as _compound
from nomisma.core.joints import expansion as _expansion
from nomisma.core.joints import interference as _interference
from nomisma.core.joints import mating as _mating
from nomisma.core.joints import shrink as _shrink
from nomisma.core.measuring import batch as _batch
from nomisma.core.measuring import budget as _budget
from nomisma.core.measuring import form as _form
from nomisma.core.measuring import misread as _misread
from nomisma.core.measuring import pins as _pins
from nomisma.core.measuring import uncertainty as _uncertainty
from nomisma.core.measuring import verdict as _verdict
from nomisma.core.measuring import zero_check as _zero_check
from nomisma.core.planning import feature_lines as _feature_lines
from nomisma.core.quantity import size as _size
from nomisma.core.truing import four_jaw as _four_jaw
from nomisma.core.truing import over_pins as _over_pins
from nomisma.core.truing import round_check as _round_check
from nomisma.core.truing import soft_jaws as _soft_jaws
from nomisma.core.truing import throw as _throw
from nomisma.core.truing import tightening as _tightening
from nomisma.core.truing import tilt as _tilt

_MODULES = (
    _aim, _amount, _assembly, _batch, _boring_bar, _budget, _bush, _clean_up, _compound, _deflection, _drill_sizes, _entry_line,
    _expansion, _facing, _feature_lines, _find, _fit,
    _form, _four_jaw, _hole, _interference, _mating, _misread, _next_cut, _options, _over_pins, _pins, _round_check, _seating,
    _shoulder, _shrink, _size, _soft_jaws, _speeds, _suit, _throw, _tightening, _tilt, _together, _uncertainty, _verdict,
    _zero_check,
)  # fmt: skip


def calculations() -> dict[str, Calculation]:
    """Every calculation by name, in alphabetical order. Source: none, bookkeeping.

    >>> list(calculations())[:2]
    ['aim', 'amount_to_take']
    """
    return registered()


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
