import { Link } from "react-router";
import type { PlotOut } from "@/api/schema.gen";
import { area, depth, volume } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { useUses } from "./site";

interface Props {
  plots: PlotOut[];
  chosen: string | undefined;
  linkTo: (id: string) => string;
}

/** The plots in their order, each with what it takes. */
export function PlotList({ plots, chosen, linkTo }: Props) {
  const units = useUnits();
  const { data: uses } = useUses();
  const label = (use: string) => uses?.find((one) => one.use === use)?.label ?? "";
  const at = plots.findIndex((plot) => plot.id === chosen);
  const [next, before] = [plots[at + 1], plots[at - 1]];
  return (
    <>
      {next ? <Link to={linkTo(next.id)} data-key="j" className="hidden" tabIndex={-1} /> : null}
      {before ? <Link to={linkTo(before.id)} data-key="k" className="hidden" tabIndex={-1} /> : null}
      <ol aria-label="Plots">
        {plots.map((plot, index) => (
          <li key={plot.id} className="border-b border-base-300">
            <Link
              to={linkTo(plot.id)}
              aria-current={plot.id === chosen ? "true" : undefined}
              ref={(node) => {
                if (plot.id === chosen) node?.scrollIntoView({ block: "nearest" });
              }}
              className={`press grid grid-cols-[1.75rem_1fr_auto] items-baseline gap-x-2 px-3 py-1.5 ${plot.id === chosen ? "border-l-4 border-primary bg-base-100 pl-2" : "hover:bg-base-100"}`}
            >
              <span className="text-sm text-base-content/70">{index + 1}</span>
              <span className="truncate font-semibold">{plot.name}</span>
              <span className="text-right font-semibold">
                {plot.volume_m3 > 0 ? (
                  volume(plot.volume_m3, units)
                ) : (
                  <span className="font-normal">none</span>
                )}
              </span>
              <span />
              <span className="truncate text-sm text-base-content/70">{label(plot.use)}</span>
              <span className="text-right text-sm text-base-content/70">
                {area(plot.area_m2, units)}, {depth(plot.wanted_mm, units)}
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </>
  );
}
