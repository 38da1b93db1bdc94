"""Security headers of every response."""

from collections.abc import Iterable

from flask import Flask, Response, request

__all__ = ["content_security_policy", "install_headers"]

POLICY = (
    "default-src 'none'",
    "script-src 'self'",
    "style-src 'self'",
    "font-src 'self'",
    "img-src 'self' data: blob:",
    # Films that a visitor has chosen, or had made.
    "media-src blob:",
    "connect-src 'self'",
    # A page that is put on a phone's screen says by it how.
    "manifest-src 'self'",
    # The workbench shows the visitor's page of the draft.
    "frame-src 'self'",
    "form-action 'self'",
    "base-uri 'none'",
)


def content_security_policy(sites: Iterable[str] = ()) -> str:
    """What a page may load, and who may show it in a frame.

    Parameters
    ----------
    sites : iterable of str, optional
        Origins beside our own.
    """
    return "; ".join([*POLICY, " ".join(["frame-ancestors 'self'", *sites])])


def install_headers(app: Flask) -> None:
    """Add the headers to whatever is answered.

    Parameters
    ----------
    app : Flask
        It is changed in place.
    """

    @app.after_request
    def add(response: Response) -> Response:
        headers = response.headers
        headers["X-Content-Type-Options"] = "nosniff"
        if not request.path.startswith("/assets/"):
            headers.setdefault("Cache-Control", "no-store")
            # Everywhere, whether or not it was looked at: what differs would tell a private demo from none.
            response.vary.update(["Cookie", "Authorization"])
        if response.mimetype == "text/html":
            headers.setdefault("Content-Security-Policy", content_security_policy())
            # Addresses can be secret links.
            headers["Referrer-Policy"] = "no-referrer"
            headers["Cross-Origin-Opener-Policy"] = "same-origin"
        return response
