"""From a worksheet's answer to the figures an assembly's steps need."""

from typing import Any

from nomisma.core.errors import InputError
from nomisma.core.joints.bush_model import BushResult
from nomisma.core.joints.interference import InterferenceResult
from nomisma.core.joints.shrink import ShrinkResult
from nomisma.core.quantity.length import Length


def assembly_inputs(method: str, answer: Any) -> dict[str, Any]:
    """The inputs of `assembly` from a worksheet's answer. Raises InputError where it cannot be put together like that.

    Source: the worksheet's own figures; forces in N, temperatures in °C, time in s.

    >>> assembly_inputs("push", None)
    {'method': 'push'}
    """
    values: dict[str, Any] = {"method": method}
    if isinstance(answer, BushResult):
        force = answer.press_force_n
        values |= {"force_least_n": _rounded(force[0]), "force_greatest_n": _rounded(force[1]), "is_bush": True}
        return {**values, "finish_after": answer.order == "after", "flange": answer.flange, **_lead(answer.press_lead)}
    if isinstance(answer, InterferenceResult):
        forces = [case.press_in_n for case in answer.cases if case.press_in_n is not None]
        if len(forces) < len(answer.cases):
            raise InputError(
                "At the greatest interference this joint is overstressed.",
                f"At most {answer.greatest_elastic} may be asked for.",
            )
        return {
            **values,
            "force_least_n": _rounded(forces[0]),
            "force_greatest_n": _rounded(forces[-1]),
            **_lead(answer.press_lead),
        }
    if isinstance(answer, ShrinkResult):
        best = next((one for one in answer.methods if one.method == answer.recommended), None)
        if best is None:
            raise InputError(answer.sentence, "Change the joint, then plan it.")
        temperatures = {"hub_c": _rounded(best.hub_c or 20), "shaft_c": _rounded(best.shaft_c or 20)}
        return {**values, **temperatures, "seconds": _rounded(best.seconds_in_place or 0)}
    return values


def _lead(press_lead: Length | None) -> dict[str, str]:
    """The lead, where the answer says one: those kept by earlier versions do not."""
    return {"press_lead": str(press_lead)} if press_lead else {}


def _rounded(value: float) -> str:
    return f"{value:.1f}"
