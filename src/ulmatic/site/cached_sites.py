"""Sites as they were last looked at, with their plans: kept by their values, the latest few."""

from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any
from uuid import UUID

from ulmatic.core.planning import SitePlan, plan_of, state_on
from ulmatic.core.site import Site, SiteState

MOST_CACHED = 8
SiteKey = tuple[UUID, UUID]
"""Workspace and site."""
Version = tuple[Any, ...]
_sites: dict[SiteKey, "CachedSite"] = {}


@dataclass
class CachedSite:
    """A site on a day, with its plans by the years ahead.

    Attributes
    ----------
    version : tuple or None
        Of the rows from which it was read, where that is known.
    """

    site: Site
    day: date
    state: SiteState
    version: Version | None
    plans: dict[int, SitePlan] = field(default_factory=dict)

    def plan(self, years: int) -> SitePlan:
        """Return what follows; the same plan for the same years."""
        if years not in self.plans:
            self.plans[years] = plan_of(self.state, years)
        return self.plans[years]


def cached_site(key: SiteKey, site: Site, day: date, version: Version | None = None) -> CachedSite:
    """Return a site as it was worked out, if it is the same on the same day; else work it out anew.

    Parameters
    ----------
    key : (UUID, UUID)
    site : Site
    day : date
    version : tuple, optional
    """
    cached = _sites.pop(key, None)
    if cached is None or cached.day != day or cached.site != site:
        # Copies of a site, as visitors of the demo have them, are worked out once.
        twin = next((other for other in _sites.values() if other.day == day and other.site == site), None)
        cached = replace(twin, version=version) if twin else CachedSite(site, day, state_on(site, day), version)
    cached.version = version or cached.version
    _cache(key, cached)
    return cached


def site_of_version(key: SiteKey, version: Version | None) -> CachedSite | None:
    """Return a site if it was worked out in just this version.

    Parameters
    ----------
    key : (UUID, UUID)
    version : tuple or None
    """
    cached = _sites.get(key)
    if cached is None or version is None or cached.version != version:
        return None
    _sites.pop(key, None)
    _cache(key, cached)
    return cached


def _cache(key: SiteKey, cached: CachedSite) -> None:
    _sites[key] = cached
    while len(_sites) > MOST_CACHED:
        _sites.pop(next(iter(_sites)), None)
