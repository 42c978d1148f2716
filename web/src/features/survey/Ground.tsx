import { LayoutGrid } from "lucide-react";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import type { Place, SiteOut } from "@/api/schema.gen";
import { useUnits } from "@/ui/units";
import { boundsOf, type Drawn, toCentimetre } from "./drawn";
import { Legend, North, ScaleBar } from "./PlanFurniture";
import { PlotPiece } from "./PlotPiece";
import { Textures } from "./texture";

const MARGIN = 34;
const FOOT = 26;
const HEAD = 62;

export type When = "lies" | "wanted";

function useSize() {
  const ref = useRef<HTMLDivElement>(null);
  const [size, set] = useState({ width: 0, height: 0 });
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) set({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return { ref, ...size };
}

interface Props {
  site: SiteOut;
  plots: Drawn[];
  chosen: string | undefined;
  choose: (id: string) => void;
  place?: (places: Record<string, Place | null>) => void;
}

type Grip = { id: string; turning: boolean; from: Place; x: number; y: number };

/** The plan of the site, drawn to scale from the measurements. */
export function Ground({ site, plots, chosen, choose, place }: Props) {
  const units = useUnits();
  const { ref, width, height } = useSize();
  const [when, setWhen] = useState<When>("wanted");
  const [grip, setGrip] = useState<Grip | null>(null);
  const [moved, setMoved] = useState<Place | null>(null);
  const bounds = boundsOf(plots);
  const scale = Math.min(
    (width - 2 * MARGIN) / Math.max(1, bounds.east - bounds.west),
    (height - MARGIN - HEAD - FOOT) / Math.max(1, bounds.north - bounds.south),
  );
  const left = (width - (bounds.east - bounds.west) * scale) / 2;
  const top = HEAD + (height - HEAD - FOOT - MARGIN - (bounds.north - bounds.south) * scale) / 2;
  const toX = (x_m: number) => left + (x_m - bounds.west) * scale;
  const toY = (y_m: number) => top + (bounds.north - y_m) * scale;

  const keep = (id: string, next: Place) => {
    // With the first one set by hand all are held where they are, so that nothing else jumps.
    const all = Object.fromEntries(
      plots.filter((plot) => plot.id !== "new").map((plot) => [plot.id, plot.place]),
    );
    place?.({ ...all, [id]: next });
  };
  const take = (event: PointerEvent, plot: Drawn, turning: boolean) => {
    event.stopPropagation();
    choose(plot.id);
    if (!place || plot.id === "new") return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setGrip({ id: plot.id, turning, from: plot.place, x: event.clientX, y: event.clientY });
  };
  const drag = (event: PointerEvent) => {
    if (!grip) return;
    const box = ref.current?.getBoundingClientRect();
    if (grip.turning && box) {
      const [dx, dy] = [
        event.clientX - box.left - toX(grip.from.x_m),
        event.clientY - box.top - toY(grip.from.y_m),
      ];
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
  const key = (event: KeyboardEvent, plot: Drawn) => {
    const far = event.shiftKey ? 5 : 0.5;
    const by: Record<string, Partial<Place>> = {
      ArrowLeft: { x_m: toCentimetre(plot.place.x_m - far) },
      ArrowRight: { x_m: toCentimetre(plot.place.x_m + far) },
      ArrowUp: { y_m: toCentimetre(plot.place.y_m + far) },
      ArrowDown: { y_m: toCentimetre(plot.place.y_m - far) },
      "[": { turn_deg: ((plot.place.turn_deg ?? 0) + 15) % 360 },
      "]": { turn_deg: ((plot.place.turn_deg ?? 0) - 15) % 360 },
    };
    if (event.key === "Enter" || event.key === " ") choose(plot.id);
    else if (by[event.key] && place && plot.id !== "new") keep(plot.id, { ...plot.place, ...by[event.key] });
    else return;
    event.preventDefault();
  };

  return (
    <section aria-label="Ground plan" className="relative flex h-full min-h-72 flex-col">
      <div className="absolute top-2 left-2 z-10 flex gap-1 print:hidden">
        <div className="join" role="group" aria-label="Which depth is drawn">
          {(["lies", "wanted"] as const).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={when === one}
              className={`btn btn-sm join-item press ${when === one ? "btn-neutral" : "bg-base-100"}`}
              onClick={() => setWhen(one)}
            >
              {one === "lies" ? "As it lies" : "As wanted"}
            </button>
          ))}
        </div>
        {place ? (
          <button
            type="button"
            className="btn btn-sm btn-square press bg-base-100"
            aria-label="Set all plots out side by side again"
            title="Set all plots out side by side again"
            onClick={() =>
              place(
                Object.fromEntries(plots.filter((plot) => plot.id !== "new").map((plot) => [plot.id, null])),
              )
            }
          >
            <LayoutGrid size={17} />
          </button>
        ) : null}
      </div>
      <div ref={ref} className="relative min-h-0 grow overflow-hidden">
        {width < 60 ? null : (
          <svg
            width={width}
            height={height}
            viewBox={`0 0 ${width} ${height}`}
            className="absolute inset-0 touch-none select-none"
            role="group"
            aria-label={`Plan of ${site.name} with ${plots.length} plots`}
            onPointerMove={drag}
            onPointerUp={drop}
            onPointerCancel={drop}
          >
            <Textures />
            {[...plots]
              .sort((a, b) => Number(a.id === chosen) - Number(b.id === chosen))
              .map((plot) => {
                const at = moved && grip?.id === plot.id ? moved : plot.place;
                return (
                  <PlotPiece
                    key={plot.id}
                    plot={{ ...plot, place: at }}
                    depth_mm={when === "lies" ? plot.existing_mm : plot.wanted_mm}
                    x={toX(at.x_m)}
                    y={toY(at.y_m)}
                    scale={scale}
                    chosen={plot.id === chosen}
                    movable={Boolean(place) && plot.id !== "new"}
                    take={take}
                    onKey={key}
                  />
                );
              })}
            <North x={width - 26} y={30} turn={site.north_deg} />
            <ScaleBar x={14} y={height - 12} scale={scale} us={units === "us"} />
            <Legend x={width - 14} y={height - 12} us={units === "us"} narrow={width < 460} />
          </svg>
        )}
      </div>
    </section>
  );
}
