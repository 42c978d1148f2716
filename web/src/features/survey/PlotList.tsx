import { ChevronDown, ChevronUp } from "lucide-react";
import { Link } from "react-router";
import type { PlotOut } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { Button } from "@/ui/Button";
import { depth } from "@/ui/format";
import { about, aboutArea, aboutDepth, inUnits, SPECK_M3 } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { useUses } from "./site";

interface Props {
  plots: PlotOut[];
  chosen: string | undefined;
  marked: ReadonlySet<string>;
  linkTo: (id: string) => string;
  mark?: (id: string) => void;
  order?: (ids: string[]) => void;
}

/** Told once of each plot that is chosen, not each time the list is drawn. */
const scrollThere = (node: HTMLElement | null) => node?.scrollIntoView({ block: "nearest" });

/** The plots in their order, each with what is due; to mark several and to put in another order. */
export function PlotList({ plots, chosen, marked, linkTo, mark, order }: Props) {
  const units = useUnits();
  const { data: uses } = useUses();
  const label = (use: string) => uses?.find((kind) => kind.use === use)?.label ?? "";
  const place = plots.findIndex((plot) => plot.id === chosen);
  const [next, before] = [plots[place + 1], plots[place - 1]];
  const shift = (index: number, by: number) => {
    const ids = plots.map((plot) => plot.id);
    const [moved] = ids.splice(index, 1);
    if (moved) order?.([...ids.slice(0, index + by), moved, ...ids.slice(index + by)]);
  };
  return (
    <>
      {next ? <Link to={linkTo(next.id)} data-key="j" className="hidden" tabIndex={-1} /> : null}
      {before ? <Link to={linkTo(before.id)} data-key="k" className="hidden" tabIndex={-1} /> : null}
      <ol aria-label={t("plotsHeading")}>
        {plots.map((plot, index) => (
          <li
            key={plot.id}
            className={`flex items-stretch border-b border-base-300 ${plot.id === chosen || marked.has(plot.id) ? "border-l-4 border-l-primary bg-base-100" : "hover:bg-base-100"}`}
          >
            {mark ? (
              <label
                className="flex w-11 shrink-0 cursor-pointer items-center justify-center"
                title={t("selectToChangeSeveralAtOnce")}
              >
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={marked.has(plot.id)}
                  onChange={() => mark(plot.id)}
                  aria-label={t("select", { name: plot.name })}
                />
              </label>
            ) : null}
            <Link
              to={linkTo(plot.id)}
              aria-current={plot.id === chosen ? "true" : undefined}
              ref={plot.id === chosen ? scrollThere : undefined}
              className={`press min-w-0 grow py-1.5 pr-3 ${mark ? "" : "pl-3"}`}
            >
              <span className="flex items-baseline gap-2">
                <span className="min-w-0 grow truncate font-semibold">
                  <span className="mr-1.5 text-sm font-normal text-base-content/70">{index + 1}</span>
                  {plot.name}
                </span>
                <span className="font-semibold whitespace-nowrap">
                  {plot.planned_m3 > SPECK_M3 ? (
                    about(plot.planned_m3, units)
                  ) : (
                    <span className="font-normal">{t("notDue")}</span>
                  )}
                </span>
              </span>
              <span className="flex items-baseline gap-2 text-sm text-base-content/70">
                <span className="min-w-0 grow truncate">{label(plot.use)}</span>
                <span className="whitespace-nowrap">
                  {plot.wanted_mm > 0
                    ? t("of", {
                        depth: aboutDepth(plot.depth.middle, units),
                        depth2: depth(plot.wanted_mm, units),
                      })
                    : aboutArea(plot.area_m2, units)}
                </span>
              </span>
              {plot.advice ? (
                <span
                  className={`block truncate text-sm ${plot.advice.severity === "stop" ? "font-semibold text-error" : "text-warning"}`}
                >
                  {inUnits(plot.advice.says, units)}
                </span>
              ) : null}
            </Link>
            {order && plot.id === chosen ? (
              <span className="flex flex-col justify-center">
                <Shift
                  name={t("moveUp", { name: plot.name })}
                  disabled={index === 0}
                  onClick={() => shift(index, -1)}
                  icon={<ChevronUp size={16} />}
                />
                <Shift
                  name={t("moveDown", { name: plot.name })}
                  disabled={index === plots.length - 1}
                  onClick={() => shift(index, 1)}
                  icon={<ChevronDown size={16} />}
                />
              </span>
            ) : null}
          </li>
        ))}
      </ol>
    </>
  );
}

interface ShiftProps {
  name: string;
  disabled: boolean;
  onClick: () => void;
  icon: React.ReactNode;
}

function Shift({ name, disabled, onClick, icon }: ShiftProps) {
  return (
    <Button ghost square className="min-w-11" aria-label={name} title={name} disabled={disabled} onClick={onClick}>
      {icon}
    </Button>
  );
}
