"""The web: thin routers, one a resource, over the journal, the store and the reports."""
