"""The routes of a job's pages."""

from nomisma.web.job import (
    assemble,
    batch,
    bench,
    bring_in,
    cut,
    decide,
    gauges,
    hold,
    mate,
    measure,
    part,
    plan,
    plan_sheet,
    record,
    sketch_lines,
    trials,
)

ROUTERS = (
    bench.router,
    mate.router,
    measure.router,
    gauges.router,
    hold.router,
    cut.router,
    part.router,
    plan.router,
    plan_sheet.router,
    sketch_lines.router,
    batch.router,
    bring_in.router,
    decide.router,
    assemble.router,
    record.router,
    trials.router,
)
