import { matchRoutes, type RouteObject } from "react-router";

/** Fetches the code of the page at an address before it is drawn; what fails is fetched again when the page is. */
function fetchCodeOf(routes: RouteObject[], address: string) {
  return Promise.allSettled(
    (matchRoutes(routes, address) ?? []).map(({ route }) => {
      const handle = route.handle as { fetchCode?: () => Promise<unknown> } | undefined;
      return handle?.fetchCode?.();
    }),
  );
}

/** Fetches the code of every page that is pointed at from now on; fulfilled once that of this page is there. */
export function fetchAhead(routes: RouteObject[]) {
  const look = (event: Event) => {
    const link = event.target instanceof Element ? event.target.closest("a") : null;
    if (link && link.origin === location.origin) void fetchCodeOf(routes, link.pathname);
  };
  document.addEventListener("pointerover", look, { passive: true });
  document.addEventListener("focusin", look, { passive: true });
  return fetchCodeOf(routes, location.pathname);
}
