import { select } from "d3-selection";
import { type D3ZoomEvent, zoom, zoomIdentity } from "d3-zoom";
import { type RefObject, useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";

export interface View {
  k: number;
  x: number;
  y: number;
}

const LARGEST = 40;

/**
 * Pan and zoom. While a gesture lasts the finished drawing is moved as a whole, which the browser does without painting;
 * the view, and with it flecks, labels and line widths, is drawn anew when it ends.
 */
export function useView(
  frame: RefObject<HTMLDivElement | null>,
  drawing: RefObject<SVGSVGElement | null>,
  ready: boolean,
) {
  const [view, setView] = useState<View>({ k: 1, x: 0, y: 0 });
  const drawn = useRef(view);
  drawn.current = view;
  const behaviour = useRef(zoom<HTMLDivElement, unknown>().scaleExtent([0.3, LARGEST]));
  useEffect(() => {
    if (!frame.current || !ready) return;
    const target = select(frame.current);
    behaviour.current
      .filter((event: Event) => {
        const mouse = event instanceof MouseEvent && !(event instanceof WheelEvent);
        if (mouse && (event as MouseEvent).button !== 0) return false;
        const grip = (event.target as Element | null)?.closest("[data-grip]")?.getAttribute("data-grip");
        return event.type === "wheel" || !(grip === "always" || (grip === "mouse" && mouse));
      })
      .on("zoom", ({ transform }: D3ZoomEvent<HTMLDivElement, unknown>) => {
        const { k, x, y } = drawn.current;
        const by = transform.k / k;
        if (!drawing.current) return;
        const moved = `translate(${transform.x - x * by}px, ${transform.y - y * by}px) scale(${by})`;
        drawing.current.style.transform = moved;
      })
      .on("end", ({ transform }: D3ZoomEvent<HTMLDivElement, unknown>) => {
        flushSync(() => setView({ k: transform.k, x: transform.x, y: transform.y }));
        if (drawing.current) drawing.current.style.transform = "";
      });
    target.call(behaviour.current).on("dblclick.zoom", null);
    return () => {
      target.on(".zoom", null);
    };
  }, [frame, drawing, ready]);
  const to = (change: "in" | "out" | "fit") => {
    if (!frame.current) return;
    const target = select(frame.current);
    if (change === "fit") target.call(behaviour.current.transform, zoomIdentity);
    else target.call(behaviour.current.scaleBy, change === "in" ? 1.5 : 1 / 1.5);
  };
  return { view, to };
}
