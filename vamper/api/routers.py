"""All routers, in the order of the work."""

from vamper.api import catalog, hand, hand_off, items, jobs, machines, sheets

ROUTERS = (jobs.router, items.router, hand.router, sheets.router, machines.router, hand_off.router, catalog.router)
