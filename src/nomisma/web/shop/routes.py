"""The routes of the shop's pages."""

from nomisma.web.shop import access, cutting_speeds, instruments, shop, shop_rules, slips, stock

ROUTERS = (
    instruments.router,
    shop.router,
    shop_rules.router,
    cutting_speeds.router,
    access.router,
    slips.router,
    stock.router,
)
