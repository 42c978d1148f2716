import { ArrowRight } from "lucide-react";
import { type ReactNode, useEffect } from "react";
import { Link, useLocation, useParams } from "react-router";
import { t } from "@/texts/site";
import { partAfter } from "./parts";

/** The title of a page of a site, what belongs to it, and the way to the next part of the job. */
export function PageHead({ title, children }: { title: string; children?: ReactNode }) {
  const { workspaceId, siteId } = useParams();
  const { pathname } = useLocation();
  const base = `/w/${workspaceId}/sites/${siteId}`;
  const next = partAfter(pathname.slice(base.length));
  useEffect(() => {
    document.title = `${title} · Ulmatic`;
  }, [title]);
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <h1 className="text-2xl">{title}</h1>
      {children}
      <span className="grow max-sm:hidden" />
      {next ? (
        <Link to={`${base}${next.path}`} className="link press hidden items-center gap-1 sm:inline-flex print:hidden">
          {t("next", { part: next.label })} <ArrowRight size={16} />
        </Link>
      ) : null}
    </div>
  );
}
