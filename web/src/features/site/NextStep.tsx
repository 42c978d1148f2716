import { ArrowRight } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Step } from "@/api/schema.gen";
import { t } from "@/texts/site";
import { inUnits } from "@/ui/precision";
import { store, stored } from "@/ui/stored";
import { useUnits } from "@/ui/units";

/** Where a step is done. */
function placeOf(step: Step, workspace: string, site: string): string {
  const base = `${workspace}/sites/${site}`;
  switch (step.key) {
    case "plot":
      return `${base}/plots/new`;
    case "existing":
      return `${base}/plots/${step.plot_id}`;
    case "climate":
    case "material":
      return `${base}/settings`;
    case "tip":
      return `${base}/access/tip`;
    case "supplier":
      return `${workspace}/suppliers/new`;
    case "order":
      return `${base}/order`;
    case "delivery":
      return `${base}/order/piles`;
    case "lay":
      return `${base}/work`;
    case "next_season":
      return `${base}/seasons`;
    default:
      return `${base}/log`;
  }
}

/** The most useful thing to do next, one at a time; what only makes figures better can be put off. */
export function NextStep({ steps }: { steps: Step[] }) {
  const { workspaceId = "", siteId = "" } = useParams();
  const units = useUnits();
  const place = `ulmatic.skipped.${siteId}`;
  const [skipped, setSkipped] = useState(() => stored<string[]>(place) ?? []);
  const step = steps.find((step) => !(step.optional && skipped.includes(step.key)));
  if (!step) return null;
  const skip = () => {
    const all = [...skipped, step.key];
    store(place, all);
    setSkipped(all);
  };
  return (
    <p
      className="flex items-center gap-x-3 border-b border-base-300 bg-base-200 px-3 text-sm sm:px-4 print:hidden"
      data-testid="site-step"
    >
      <span className="hidden text-base-content/75 sm:inline">{t("nextStep")}</span>
      <Link
        to={placeOf(step, `/w/${workspaceId}`, siteId)}
        className="link press inline-flex min-w-0 items-center gap-1.5 font-semibold"
      >
        <span>{inUnits(step.text, units)}</span> <ArrowRight size={16} className="shrink-0" />
      </Link>
      {step.optional ? (
        <button type="button" className="press ml-auto shrink-0 px-2 underline" onClick={skip}>
          {t("skip")}
        </button>
      ) : null}
    </p>
  );
}
