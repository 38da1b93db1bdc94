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
    """Add the headers to whatever is answered."""

    @app.after_request
    def add(response: Response) -> Response:
        response.headers.setdefault("Content-Security-Policy", CONTENT_SECURITY_POLICY)
        response.headers.setdefault("X-Content-Type-Options", "nosniff")
        # Addresses can be secret links.
        response.headers.setdefault("Referrer-Policy", "no-referrer")
        response.headers.setdefault("Cross-Origin-Opener-Policy", "same-origin")
        if request.path.startswith(("/api/", "/l/", "/d/", "/sign-in/")) or request.path == "/":
            response.headers.setdefault("Cache-Control", "no-store")
        return response
