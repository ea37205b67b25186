"""What is counted and written down of every request: by route, never by whom or about what."""

import json
import logging
import time

from fastapi import Request
from prometheus_client import REGISTRY as OWN
from prometheus_client import CollectorRegistry, Counter, Histogram, generate_latest, multiprocess
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dorrik.api.routing import router as make_router
from dorrik.settings import settings

router = make_router("/api", "health")
log = logging.getLogger("dorrik.access")

REQUESTS = Counter("dorrik_requests_total", "Requests answered", ("method", "route", "status"))
SECONDS = Histogram(
    "dorrik_request_seconds",
    "Time to the first byte of the answer",
    ("method", "route"),
    buckets=(0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 30),
)
CHANGES = Counter("dorrik_changes_total", "Changes of inspections", ("state",))
FAILED_SIGN_INS = Counter("dorrik_sign_in_failures_total", "Tries to sign in that failed")


class RequestMetrics:
    """Counts every request and, where DORRIK_ACCESS_LOG is set, writes a line of JSON for it."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._writes = settings().access_log

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        began = time.perf_counter()
        status, first, size = 500, None, 0

        async def watched(message: Message) -> None:
            nonlocal status, first, size
            if message["type"] == "http.response.start":
                status, first = message["status"], time.perf_counter()
            else:
                size += len(message.get("body", b""))
            await send(message)

        try:
            await self.app(scope, receive, watched)
        finally:
            seconds = (first or time.perf_counter()) - began
            route = _route(scope)
            REQUESTS.labels(scope["method"], route, str(status)).inc()
            SECONDS.labels(scope["method"], route).observe(seconds)
            if self._writes:
                line = {
                    "at": time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime()),
                    "method": scope["method"],
                    "route": route,
                    "status": status,
                    "ms": round(seconds * 1000, 1),
                    "bytes": size,
                }
                log.info(json.dumps(line))


def _route(scope: Scope) -> str:
    """The pattern of the address, not the address: that has ids in it. What is no route of ours is one of them all."""
    route = scope.get("route")
    return getattr(route, "path", None) or "none"


@router.get("/metrics", include_in_schema=False)
def metrics(request: Request) -> Response:
    """Counts of all processes for Prometheus: for whoever has DORRIK_METRICS_TOKEN, or else sits on the machine."""
    given_settings = settings()
    token = given_settings.metrics_token
    given = request.headers.get("authorization", "")
    local = request.client is not None and request.client.host in ("127.0.0.1", "::1")
    if not (given == f"Bearer {token.get_secret_value()}" if token else local):
        return Response(status_code=404)
    registry = OWN
    if given_settings.counts:
        registry = CollectorRegistry()
        multiprocess.MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    return Response(generate_latest(registry), media_type="text/plain; version=0.0.4")
