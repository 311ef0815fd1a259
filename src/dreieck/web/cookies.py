"""Cookies: given by our own pages alone, signed with the moment when they were."""

from __future__ import annotations

from itsdangerous import BadSignature, SignatureExpired, TimestampSigner
from starlette.requests import Request
from starlette.responses import Response


def unsigned(signer: TimestampSigner, cookie: str, max_age: int) -> str | None:
    """What a signed cookie says; None where it is forged or too old.

    One that is signed in the future is from before the clock was set back.
    """
    try:
        said: bytes = signer.unsign(cookie, max_age=max_age)
        return said.decode()
    except SignatureExpired as expired:
        signed = expired.date_signed
        if not signed or signed.timestamp() < signer.get_timestamp() or not expired.payload:
            return None
        kept: bytes = expired.payload
        return kept.decode()
    except BadSignature:
        return None


def give(
    request: Request, answer: Response, name: str, value: str, max_age: int, path: str = "/"
) -> None:
    """Let a browser keep something that no script and no other site gets."""
    answer.set_cookie(
        name, value, max_age=max_age, path=path, httponly=True, samesite="lax",
        secure=request.url.scheme == "https",
    )  # fmt: skip
