"""All routers, in the order of the work."""

from vamper.api import catalog, hand_off, items, jobs

ROUTERS = (jobs.router, items.router, hand_off.router, catalog.router)
