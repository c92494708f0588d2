"""What this browser is shown in: units and light."""

from fastapi import APIRouter
from fastapi.responses import RedirectResponse, Response

from caldarium.web.forms import Texts
from caldarium.web.urls import back_to

router = APIRouter()
KNOWN = {"units": ("metric", "customary"), "light": ("day", "low")}
"""Cookies by what they may hold; the first is what a browser without one gets."""


@router.post("/units")
def units(form: Texts) -> Response:
    """Choose the units shown in this browser."""
    return _remember("units", form)


@router.post("/light")
def light(form: Texts) -> Response:
    """Choose the page's light in this browser: day, or low glare for a headlamp."""
    return _remember("light", form)


def _remember(name: str, form: Texts) -> Response:
    known = KNOWN[name]
    chosen = form.get(name, "")
    response = RedirectResponse(back_to(form.get("back", ""), "/"), status_code=303)
    response.set_cookie(
        name,
        chosen if chosen in known else known[0],
        max_age=31536000,
        samesite="strict",
        httponly=True,
    )
    return response
