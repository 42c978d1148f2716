import type { ReactNode } from "react";
import { NavLink, Outlet, useParams } from "react-router";
import { PageHead } from "./PageHead";

interface Props {
  title: string;
  part: string;
  pages: [path: string, label: string][];
  children?: ReactNode;
}

/** The head of a part of the job that has several pages, and the page beneath it. */
export function SubPages({ title, part, pages, children = <Outlet /> }: Props) {
  const { workspaceId, siteId } = useParams();
  return (
    <>
      <div className="shrink-0 border-b border-base-300 px-3 sm:px-4">
        <PageHead title={title}>
          <nav className="flex max-w-full overflow-x-auto print:hidden" aria-label={title}>
            {pages.map(([path, label]) => (
              <NavLink
                key={path}
                end={path === ""}
                to={`/w/${workspaceId}/sites/${siteId}/${part}${path}`}
                className={({ isActive }) =>
                  `press inline-flex shrink-0 items-center border-b-2 px-3 whitespace-nowrap ${isActive ? "border-secondary font-semibold" : "border-transparent text-base-content/80 hover:border-base-300"}`
                }
              >
                {label}
              </NavLink>
            ))}
          </nav>
        </PageHead>
      </div>
      {children}
    </>
  );
}
