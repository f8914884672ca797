"""All routers, in the order of the work."""

from vamper.api import catalog
from vamper.api.art import routes as art
from vamper.api.compose import routes as compose
from vamper.api.cut import routes as cut
from vamper.api.finish import routes as finish
from vamper.api.handoff import routes as handoff
from vamper.api.jobs import routes as jobs
from vamper.api.lan import routes as lan
from vamper.api.ledger import finished_routes as finished
from vamper.api.ledger import routes as ledger
from vamper.api.ledger import supply_routes as supplies
from vamper.api.marks import routes as marks
from vamper.api.printing import routes as printing
from vamper.api.program import routes as program
from vamper.api.sheet import hand_routes as hand
from vamper.api.sheet import routes as sheet
from vamper.api.shop import routes as shop
from vamper.api.shop import stock_routes as stocks
from vamper.api.trainer import routes as trainer
from vamper.api.twin import routes as twin

ROUTERS = (
    jobs.router,
    art.router,
    compose.router,
    hand.router,
    sheet.router,
    shop.router,
    stocks.router,
    marks.router,
    printing.router,
    program.router,
    cut.router,
    twin.router,
    trainer.router,
    finish.router,
    ledger.router,
    supplies.router,
    finished.router,
    handoff.router,
    lan.router,
    catalog.router,
)
