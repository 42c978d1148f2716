import { ArrowLeft } from "lucide-react";
import { Link, NavLink, Outlet, useParams } from "react-router";
import { useSession } from "@/features/accounts/session";
import { useSite } from "@/features/survey/site";
import { Loading, Trouble } from "@/ui/states";
import { Units } from "@/ui/units";

const PARTS = [
  ["order", "What to order"],
  ["offers", "Offers"],
  ["piles", "Piles and loads"],
  ["moving", "Moving it"],
  ["quote", "Quote"],
] as const;

/** The supply of a site: from whom, onto which pile, by which barrow, for how much. */
export function SupplyPage() {
  const { workspaceId = "", siteId = "" } = useParams();
  const { data: session } = useSession();
  const { sheet } = useSite();
  if (sheet.isPending) return <Loading what="the site" />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { site } = sheet.data;
  return (
    <Units value={session?.user?.units ?? site.units}>
      <div className="flex h-full flex-col">
        <header className="flex flex-wrap items-center gap-x-4 border-b border-base-300 bg-base-100 px-2 sm:px-4 print:hidden">
          <Link
            to={`/w/${workspaceId}/sites/${siteId}`}
            className="btn btn-ghost press -ml-2 max-w-full"
            aria-label={`Back to ${site.name}`}
          >
            <ArrowLeft size={18} /> <h1 className="truncate text-lg">{site.name}</h1>
          </Link>
          <nav className="-mx-2 flex max-w-full grow overflow-x-auto sm:mx-0" aria-label="Supply">
            {PARTS.map(([part, words]) => (
              <NavLink
                key={part}
                to={`/w/${workspaceId}/sites/${siteId}/supply/${part}`}
                className={({ isActive }) =>
                  `press inline-flex shrink-0 items-center border-b-3 px-3 pt-0.5 whitespace-nowrap ${isActive ? "border-primary font-semibold" : "border-transparent hover:border-base-300"}`
                }
              >
                {words}
              </NavLink>
            ))}
          </nav>
        </header>
        <div className="min-h-0 grow overflow-y-auto">
          <Outlet />
        </div>
      </div>
    </Units>
  );
}
