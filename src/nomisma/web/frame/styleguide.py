"""Every component in one place, in the demo: marks, numbers, inputs, figures."""

from decimal import Decimal

from fastapi import APIRouter, Depends
from fastapi.responses import Response

from nomisma.core.fits.fit import FitInput, fit
from nomisma.core.part.feature import Feature, State
from nomisma.web.drawings.fit import code_picture
from nomisma.web.drawings.strip import StripMark, strip
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Visit, signed_in

router = APIRouter(include_in_schema=False)


@router.get("/styleguide")
def show(visit: Visit = Depends(signed_in)) -> Response:
    """The components with made-up numbers."""
    sizes = ("25.004", "24.9935", "24.987", "24.975")
    states = (State.METAL_TO_GO, State.TOO_CLOSE_TO_CALL, State.IN_LIMITS, State.GONE_TOO_FAR)
    marks = [
        StripMark(Decimal(size), Decimal("0.0024"), state, "middle 0°")
        for size, state in zip(sizes, states, strict=True)
    ]
    drawn = strip(Feature("shaft", Decimal("24.980"), Decimal("24.993"), Decimal("24.987")), marks, "mm")
    return page(
        visit, "frame/styleguide.html", strip=drawn, picture=code_picture(fit(FitInput(callout="25 H7/g6")), "mm")
    )
