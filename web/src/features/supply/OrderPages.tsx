import { NavLink, Outlet, useParams } from "react-router";
import { t } from "@/texts/supply";

const PARTS = [
  ["", t("whatToOrder")],
  ["/offers", t("offers2")],
  ["/piles", t("pilesAndLoads")],
  ["/quote", t("quote")],
] as const;

/** The pages about getting chips: what to order, offers, what lies here, and the quote. */
export function OrderPages() {
  const { workspaceId = "", siteId = "" } = useParams();
  return (
    <>
      <nav
        className="flex overflow-x-auto border-b border-base-300 px-2 sm:px-4 print:hidden"
        aria-label={t("order")}
      >
        {PARTS.map(([part, words]) => (
          <NavLink
            key={part}
            end={part === ""}
            to={`/w/${workspaceId}/sites/${siteId}/order${part}`}
            className={({ isActive }) =>
              `press inline-flex shrink-0 items-center border-b-2 px-3 whitespace-nowrap ${isActive ? "border-secondary font-semibold" : "border-transparent text-base-content/80 hover:border-base-300"}`
            }
          >
            {words}
          </NavLink>
        ))}
      </nav>
      <Outlet />
    </>
  );
}
