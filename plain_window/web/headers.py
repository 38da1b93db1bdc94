"""Security headers of every response."""

from flask import Flask, Response, request

__all__ = ["install_headers"]

CONTENT_SECURITY_POLICY = "; ".join(
    [
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self'",
        "font-src 'self'",
        "img-src 'self' data: blob:",
        "connect-src 'self'",
        # The workbench shows the visitor's page of the draft.
        "frame-src 'self'",
        "frame-ancestors 'self'",
        "form-action 'self'",
        "base-uri 'none'",
    ]
)


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
            headers["Content-Security-Policy"] = CONTENT_SECURITY_POLICY
            # Addresses can be secret links.
            headers["Referrer-Policy"] = "no-referrer"
            headers["Cross-Origin-Opener-Policy"] = "same-origin"
        return response
