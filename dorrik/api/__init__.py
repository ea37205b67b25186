"""The web: thin routers, one a resource, over the journal, the store and the reports."""

from pathlib import Path

#: Where the built front end lies. Here, so that who only wants to know loads nothing of the application.
WEB = Path(__file__).parents[2] / "web" / "dist"
#: Where the rules lie as devices take them (web/rules).
RULES = WEB.with_name("dist-rules")
