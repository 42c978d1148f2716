"""The nitrogen account of plots."""

from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ulmatic.accounts.scope import Scope
from ulmatic.nitrogen.schemas import LayerShare, NitrogenSheet, PlotBalance, SiteNitrogen
from ulmatic.platform.series import packed
from ulmatic.site.snapshot import snapshot_of

YEARS = 3


def _hundredths(values: NDArray[np.float64]) -> str:
    return packed(values, 100, -327.68)


def nitrogen_sheet(
    scope: Scope, site_id: UUID, plot_id: UUID, product: str, n_share: float, bag_kg: float | None, *, soluble: bool
) -> NitrogenSheet:
    """Return the account of a plot, with the dose of a product that would make up for what is wanting."""
    snapshot = snapshot_of(scope, site_id)
    snapshot.plot(plot_id)
    plan = snapshot.plan(YEARS)
    account = plan.account(plan.state.numbers[plot_id])
    plot = account.plot
    release, lost = account.paid
    low, high = account.band
    return NitrogenSheet(
        now=plan.now,
        plot_id=plot_id,
        first=plan.weeks.first,
        today=snapshot.today,
        weeks=plan.weeks.count,
        balance=_hundredths(account.balance),
        low=_hundredths(low),
        high=_hundredths(high),
        paid_in=_hundredths(release),
        washed_out_g_m2=float(lost[-1]),
        growing=account.growing,
        contact_mm=account.contact_mm,
        dug_in=account.dug_in,
        marks=account.marks(),
        layers=[
            LayerShare(
                name=part.layer.material.name,
                on=part.layer.on,
                planned=part.planned,
                brought=brought,
                most_owed=owed,
                cn=part.layer.material.cn.value,
            )
            for part, brought, owed in account.layer_figures()
        ],
        seasons=account.seasons,
        advised=account.advised,
        dose=account.dose(product, n_share, bag_kg, soluble=soluble),
        overdone=account.overdone(),
        schools=account.schools(),
        area_m2=snapshot.state.laid_m2(plot, snapshot.today),
        to_water_m=plot.plot.site_conditions.to_water_m,
    )


def site_nitrogen(scope: Scope, site_id: UUID) -> SiteNitrogen:
    """Return every plot's account, for the plan."""
    snapshot = snapshot_of(scope, site_id)
    plan = snapshot.plan(YEARS)
    return SiteNitrogen(
        now=plan.now,
        first=plan.weeks.first,
        today=snapshot.today,
        weeks=plan.weeks.count,
        plots=[
            PlotBalance(plot_id=plot.id, balance=_hundredths(plan.account(row).balance))
            for row, plot in enumerate(plan.plots)
        ],
    )
