import { select } from "d3-selection";
import { type D3ZoomEvent, zoom, zoomIdentity } from "d3-zoom";
import { type RefObject, useEffect, useRef, useState } from "react";

export interface View {
  k: number;
  x: number;
  y: number;
}

const LARGEST = 40;

/**
 * Pan and zoom of an SVG. While a gesture lasts only the group is transformed; the view, and with it flecks, labels and
 * line widths, is drawn anew when it ends.
 */
export function useView(
  svg: RefObject<SVGSVGElement | null>,
  group: RefObject<SVGGElement | null>,
  ready: boolean,
) {
  const [view, setView] = useState<View>({ k: 1, x: 0, y: 0 });
  const drawn = useRef(view);
  drawn.current = view;
  const behaviour = useRef(zoom<SVGSVGElement, unknown>().scaleExtent([0.3, LARGEST]));
  useEffect(() => {
    if (!svg.current || !ready) return;
    const target = select(svg.current);
    behaviour.current
      .filter((event: Event) => {
        const mouse = event instanceof MouseEvent && !(event instanceof WheelEvent);
        if (mouse && (event as MouseEvent).button !== 0) return false;
        const grip = (event.target as Element | null)?.closest("[data-grip]")?.getAttribute("data-grip");
        return event.type === "wheel" || !(grip === "always" || (grip === "mouse" && mouse));
      })
      .on("zoom", ({ transform }: D3ZoomEvent<SVGSVGElement, unknown>) => {
        const { k, x, y } = drawn.current;
        const by = transform.k / k;
        group.current?.setAttribute(
          "transform",
          `translate(${transform.x - x * by} ${transform.y - y * by}) scale(${by})`,
        );
      })
      .on("end", ({ transform }: D3ZoomEvent<SVGSVGElement, unknown>) => {
        group.current?.removeAttribute("transform");
        setView({ k: transform.k, x: transform.x, y: transform.y });
      });
    target.call(behaviour.current).on("dblclick.zoom", null);
    return () => {
      target.on(".zoom", null);
    };
  }, [svg, group, ready]);
  const to = (change: "in" | "out" | "fit") => {
    if (!svg.current) return;
    const target = select(svg.current);
    if (change === "fit") target.call(behaviour.current.transform, zoomIdentity);
    else target.call(behaviour.current.scaleBy, change === "in" ? 1.5 : 1 / 1.5);
  };
  return { view, to };
}
