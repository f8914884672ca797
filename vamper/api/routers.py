"""All routers, in the order of the work."""

from vamper.api import catalog, hand, hand_off, items, jobs

ROUTERS = (jobs.router, items.router, hand.router, hand_off.router, catalog.router)
