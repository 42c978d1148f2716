import { LayoutGrid, Maximize, Minus, Plus } from "lucide-react";
import { type KeyboardEvent, type MouseEvent, type PointerEvent, useCallback, useMemo, useRef, useState } from "react";
import type { PlaceOutput as Place, SiteOut } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { Button } from "@/ui/Button";
import { DataTable } from "@/ui/DataTable";
import { onGround } from "@/ui/format";
import { useSize } from "@/ui/picture";
import { aboutDepth, aboutDistance, usualDepth } from "@/ui/precision";
import { Segments } from "@/ui/Segments";
import { useUnits } from "@/ui/units";
import { boundsOf, type Drawn, toCentimetre, type XY } from "./drawn";
import type { Editing } from "./LandmarkForm";
import { LandmarkPieces, LandmarkTags, Walk } from "./LandmarkPieces";
import { labelsOf } from "./labels";
import type { Marked } from "./landmarks";
import { Legend, North, ScaleBar } from "./PlanFurniture";
import { PlotPiece } from "./PlotPiece";
import { OwedLegend, Owing, Textures } from "./texture";
import { useView } from "./view";

const MARGIN = 34;
const FOOT = 26;
const HEAD = 62;

export type When = "lies" | "wanted";

interface Props {
  site: SiteOut;
  plots: Drawn[];
  marks: Marked[];
  /** The walk to the chosen plot. */
  walk?: XY[];
  /** Set while a tip, a pile place or a way is being put on the plan. */
  editing?: Editing | undefined;
  chosen: string | undefined;
  marked?: ReadonlySet<string>;
  choose: (id: string, more: boolean) => void;
  place?: (places: Record<string, Place | null>) => void;
  /** Depths to be drawn instead of those that lie there or are wanted, in mm by plot. */
  depths?: ReadonlyMap<string, number>;
  /** Nitrogen to be drawn instead of depth, in g/m² by plot: below 0 owed. */
  balances?: ReadonlyMap<string, number>;
}

type Grip = { id: string; turning: boolean; from: Place; x: number; y: number };

/** The plan of the site, drawn to scale from the measurements. */
export function Ground(props: Props) {
  const { site, plots, marks, walk = [], editing, chosen, marked, choose, place, depths, balances } = props;
  const units = useUnits();
  const { box, width, height } = useSize();
  const svg = useRef<SVGSVGElement>(null);
  const [when, setWhen] = useState<When>("wanted");
  const [grip, setGrip] = useState<Grip | null>(null);
  const [moved, setMoved] = useState<Place | null>(null);
  const ready = width >= 60;
  const { view, to } = useView(box, svg, ready);
  const pressing = editing?.press !== undefined;
  const bounds = useMemo(() => {
    // While points are being pressed in, the plan keeps still beneath the hand.
    const settled = pressing ? marks.filter((mark) => mark.id !== "new") : marks;
    return boundsOf(plots, plots.length + settled.length > 0 ? settled : marks);
  }, [plots, marks, pressing]);
  const widthOfGround = Math.max(1, bounds.east - bounds.west);
  const heightOfGround = Math.max(1, bounds.north - bounds.south);
  const fit = Math.min((width - 2 * MARGIN) / widthOfGround, (height - MARGIN - HEAD - FOOT) / heightOfGround);
  const scale = fit * view.k;
  const left = (width - widthOfGround * fit) / 2 - bounds.west * fit;
  const top = HEAD + (height - HEAD - FOOT - MARGIN - heightOfGround * fit) / 2 + bounds.north * fit;
  const [panX, panY] = [left * view.k + view.x, top * view.k + view.y];
  const labels = useMemo(() => labelsOf(plots, marks, scale, chosen), [plots, marks, scale, chosen]);

  const keep = (id: string, next: Place) => {
    // With the first one set by hand all are held where they are, so that nothing else jumps.
    const places = plots.filter((plot) => plot.id !== "new").map((plot) => [plot.id, plot.place]);
    place?.({ ...Object.fromEntries(places), [id]: next });
  };
  const take = (event: PointerEvent, plot: Drawn, turning: boolean) => {
    if (editing?.press) return;
    event.stopPropagation();
    const more = event.ctrlKey || event.metaKey || event.shiftKey;
    if (!turning) choose(plot.id, more);
    const isTouch = event.pointerType !== "mouse" && plot.id !== chosen;
    if (!place || plot.id === "new" || more || isTouch) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setGrip({ id: plot.id, turning, from: plot.place, x: event.clientX, y: event.clientY });
  };
  const drag = (event: PointerEvent) => {
    const edges = box.current?.getBoundingClientRect();
    if (!grip || !edges) return;
    if (grip.turning) {
      const dx = event.clientX - edges.left - panX - grip.from.x_m * scale;
      const dy = event.clientY - edges.top - panY + grip.from.y_m * scale;
      const raw = (Math.atan2(-dy, dx) * 180) / Math.PI - 90;
      const step = event.shiftKey ? 1 : 5;
      setMoved({ ...grip.from, turn_deg: Math.round(raw / step) * step });
      return;
    }
    const [dx, dy] = [(event.clientX - grip.x) / scale, (event.clientY - grip.y) / scale];
    if (Math.hypot(dx, dy) * scale < 4 && !moved) return;
    setMoved({ ...grip.from, x_m: toCentimetre(grip.from.x_m + dx), y_m: toCentimetre(grip.from.y_m - dy) });
  };
  const drop = () => {
    if (grip && moved) keep(grip.id, moved);
    setGrip(null);
    setMoved(null);
  };
  const press = (event: MouseEvent) => {
    const edges = box.current?.getBoundingClientRect();
    if (!editing?.press || !edges || (event.target as Element).closest("[data-grip=always]")) return;
    const x = (event.clientX - edges.left - panX) / scale;
    const y = (panY - event.clientY + edges.top) / scale;
    editing.press([toCentimetre(x), toCentimetre(y)]);
  };
  const key = (event: KeyboardEvent, plot: Drawn) => {
    const step = event.shiftKey ? 5 : 0.5;
    const by: Record<string, Partial<Place>> = {
      ArrowLeft: { x_m: toCentimetre(plot.place.x_m - step) },
      ArrowRight: { x_m: toCentimetre(plot.place.x_m + step) },
      ArrowUp: { y_m: toCentimetre(plot.place.y_m + step) },
      ArrowDown: { y_m: toCentimetre(plot.place.y_m - step) },
      "[": { turn_deg: ((plot.place.turn_deg ?? 0) + 15) % 360 },
      "]": { turn_deg: ((plot.place.turn_deg ?? 0) - 15) % 360 },
    };
    if (event.key === "Enter" || event.key === " ") choose(plot.id, false);
    else if (by[event.key] && place && plot.id !== "new") keep(plot.id, { ...plot.place, ...by[event.key] });
    else return;
    event.preventDefault();
  };
  // The pieces are drawn again only when something of theirs changes, so what they call must stay the same.
  const hands = useRef({ take, key });
  hands.current = { take, key };
  const onTake = useCallback((...all: Parameters<typeof take>) => hands.current.take(...all), []);
  const onKey = useCallback((...all: Parameters<typeof key>) => hands.current.key(...all), []);

  return (
    <section aria-label={t("groundPlan")} data-testid="ground" className="relative flex h-full min-h-72 flex-col">
      <div className="absolute top-2 left-2 z-10 flex gap-1 print:hidden">
        <Segments
          label={t("depthShown")}
          className={depths || balances ? "hidden" : ""}
          button="btn-sm"
          rest="bg-base-100"
          value={when}
          options={[
            ["lies", t("today")],
            ["wanted", t("atTargetDepth")],
          ]}
          choose={setWhen}
        />
        <div className="join" role="group" aria-label={t("zoom")}>
          <Tool name={t("zoomIn")} onClick={() => to("in")} icon={<Plus size={17} />} />
          <Tool name={t("zoomOut")} onClick={() => to("out")} icon={<Minus size={17} />} />
          <Tool name={t("showTheWholeSite")} onClick={() => to("fit")} icon={<Maximize size={17} />} />
        </div>
        {place ? (
          <Tool
            name={t("arrangeAllPlotsSideBySide")}
            icon={<LayoutGrid size={17} />}
            onClick={() => {
              place(Object.fromEntries(plots.filter((plot) => plot.id !== "new").map((plot) => [plot.id, null])));
              to("fit");
            }}
          />
        ) : null}
      </div>
      <div ref={box} className="relative min-h-0 grow touch-none overflow-hidden">
        {ready && plots.length === 0 && marks.length === 0 ? <EmptyPlan /> : null}
        {ready ? (
          // biome-ignore lint/a11y/useKeyWithClickEvents: points can be typed in the form too
          <svg
            ref={svg}
            width={width}
            height={height}
            viewBox={`0 0 ${width} ${height}`}
            className="absolute inset-0 origin-top-left touch-none overflow-visible select-none will-change-transform"
            role="group"
            aria-label={t("planOfWithPlots2", {
              name: site.name,
              count: plots.length,
            })}
            onPointerMove={drag}
            onPointerUp={drop}
            onPointerCancel={drop}
            onClick={press}
            style={editing?.press ? { cursor: "crosshair" } : undefined}
          >
            <Textures />
            {balances ? <Owing /> : null}
            <g transform={`translate(${panX} ${panY})`}>
              <LandmarkPieces
                marks={marks}
                chosen={chosen}
                scale={scale}
                choose={(id) => choose(id, false)}
                move={editing?.move}
              />
              {[...plots]
                .sort((a, b) => Number(a.id === chosen) - Number(b.id === chosen))
                .map((plot) => {
                  const place = moved && grip?.id === plot.id ? moved : plot.place;
                  return (
                    <PlotPiece
                      key={plot.id}
                      plot={plot}
                      place={place}
                      depth_mm={depths?.get(plot.id) ?? (when === "lies" ? plot.existing_mm : plot.wanted_mm)}
                      {...(balances ? { balance: balances.get(plot.id) ?? 0 } : {})}
                      scale={scale}
                      chosen={plot.id === chosen}
                      marked={Boolean(marked?.has(plot.id))}
                      movable={Boolean(place) && plot.id !== "new"}
                      label={labels.get(plot.id) ?? null}
                      take={onTake}
                      onKey={onKey}
                    />
                  );
                })}
              {walk.length > 1 ? <Walk points={walk} scale={scale} /> : null}
              <LandmarkTags marks={marks} labels={labels} chosen={chosen} scale={scale} />
            </g>
          </svg>
        ) : null}
        {ready ? (
          <svg
            width={width}
            height={height}
            className="pointer-events-none absolute inset-0"
            role="group"
            aria-label={t("northScaleAndDepth")}
          >
            <North x={width - 26} y={30} turn={site.north_deg} />
            <ScaleBar x={14} y={height - 12} scale={scale} us={units === "us"} />
            {balances ? (
              <OwedLegend x={width - 14} y={height - 12} />
            ) : (
              <Legend x={width - 14} y={height - 12} us={units === "us"} narrow={width < 460} />
            )}
          </svg>
        ) : null}
      </div>
      <PlanTable plots={plots} {...(depths && { depths })} {...(balances && { balances })} />
    </section>
  );
}

function PlanTable({ plots, depths, balances }: Pick<Props, "plots" | "depths" | "balances">) {
  const units = useUnits();
  return (
    <DataTable
      caption={t("plotsOfThePlan")}
      heads={[
        t("plot"),
        t("widthOnThePlan"),
        t("lengthOnThePlan"),
        t("depthOnThePlan"),
        t("atTargetDepth"),
        ...(balances ? [t("nitrogenBalance")] : []),
      ]}
      rows={plots.map((plot) => [
        plot.name,
        aboutDistance(plot.outline.width_m, units),
        aboutDistance(plot.outline.height_m, units),
        aboutDepth(depths?.get(plot.id) ?? plot.existing_mm, units),
        usualDepth(plot.wanted_mm, units),
        ...(balances ? [onGround(balances.get(plot.id) ?? 0, units)] : []),
      ])}
    />
  );
}

/** What will be seen on a plan where nothing is measured yet. */
function EmptyPlan() {
  const line = {
    fill: "none",
    stroke: "var(--color-base-content)",
    strokeWidth: 1.5,
    strokeDasharray: "5 5",
  };
  const words = { fontSize: 14, fill: "var(--color-base-content)" } as const;
  return (
    <svg
      viewBox="0 0 400 260"
      className="absolute inset-0 h-full w-full p-8 opacity-60"
      role="img"
      aria-label={t("sketchOfAPlanABed")}
    >
      <rect x={30} y={60} width={150} height={60} {...line} />
      <text x={105} y={95} textAnchor="middle" {...words}>
        {t("bed")}
      </text>
      <path d="M30 190H220L290 130" {...line} strokeWidth={22} strokeOpacity={0.18} strokeDasharray="none" />
      <path d="M30 190H220L290 130" {...line} />
      <text x={120} y={222} textAnchor="middle" {...words}>
        {t("pathWithin")}
      </text>
      {[250, 300, 350].map((x) => (
        <g key={x}>
          <circle cx={x} cy={70} r={24} {...line} />
          <circle cx={x} cy={70} r={3} fill="var(--color-base-content)" />
        </g>
      ))}
      <text x={300} y={118} textAnchor="middle" {...words}>
        {t("trees")}
      </text>
      <text x={300} y={205} textAnchor="middle" {...words}>
        {t("trueToScaleFromYourMeasurements")}
      </text>
    </svg>
  );
}

function Tool({ name, icon, onClick }: { name: string; icon: React.ReactNode; onClick: () => void }) {
  return (
    <Button small square className="join-item bg-base-100" aria-label={name} title={name} onClick={onClick}>
      {icon}
    </Button>
  );
}
