import { type PointerEvent, useState } from "react";
import { toCentimetre, type XY } from "./drawn";
import { middleOfWay } from "./labels";
import type { Landmark, Marked } from "./landmarks";
import { Tag } from "./PlotPiece";

interface Props {
  marks: Marked[];
  chosen: string | undefined;
  scale: number;
  choose: (id: string) => void;
  /** Tells where the chosen one, or one point of a way, was put. */
  move?: ((id: string, index: number, at: XY) => void) | undefined;
}

const pathOf = (points: XY[], scale: number) =>
  `M${points.map(([x, y]) => `${(x * scale).toFixed(1)} ${(-y * scale).toFixed(1)}`).join("L")}`;

/** Ways beneath, tips and pile places on top of them: what stands on the plan besides plots. */
export function LandmarkPieces(props: Props) {
  const { marks, chosen } = props;
  const ways = marks.filter(({ landmark }) => landmark.kind === "way");
  const stands = marks.filter(({ landmark }) => landmark.kind !== "way");
  return [...ways, ...stands].map((mark) => <Piece key={mark.id} mark={mark} stands={mark.id === chosen} {...props} />);
}

function Piece({ mark, stands, scale, choose, move }: Props & { mark: Marked; stands: boolean }) {
  const [grip, setGrip] = useState<{ index: number; x: number; y: number } | null>(null);
  const [by, setBy] = useState<XY>([0, 0]);
  const landmark = grip ? shifted(mark.landmark, grip.index, by) : mark.landmark;
  const movable = stands && move !== undefined;
  const take = (event: PointerEvent, index: number) => {
    event.stopPropagation();
    choose(mark.id);
    if (!movable) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setGrip({ index, x: event.clientX, y: event.clientY });
  };
  const drag = (event: PointerEvent) => {
    if (grip) setBy([(event.clientX - grip.x) / scale, (grip.y - event.clientY) / scale]);
  };
  const drop = () => {
    if (grip && Math.hypot(...by) * scale > 3) {
      const after = shifted(mark.landmark, grip.index, by);
      const middle: XY =
        after.kind === "way"
          ? (after.points_m[grip.index] as XY)
          : [toCentimetre(after.place.x_m), toCentimetre(after.place.y_m)];
      move?.(mark.id, grip.index, middle);
    }
    setGrip(null);
    setBy([0, 0]);
  };
  const hands = (index: number) => ({
    onPointerDown: (event: PointerEvent) => take(event, index),
    onPointerMove: drag,
    onPointerUp: drop,
    onPointerCancel: drop,
  });
  const shared = {
    role: "button",
    tabIndex: 0,
    "aria-pressed": stands,
    "aria-label": mark.name,
    "data-grip": movable ? "always" : undefined,
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key !== "Enter" && event.key !== " ") return;
      event.preventDefault();
      choose(mark.id);
    },
    style: { cursor: movable ? "grab" : "pointer" },
  } as const;
  if (landmark.kind === "way") {
    const points = landmark.points_m as XY[];
    const wide = Math.max(5, landmark.width_m * scale);
    const line = { fill: "none", strokeLinejoin: "round" } as const;
    return (
      <g {...shared} onPointerDown={(event) => take(event, -1)}>
        <path
          d={pathOf(points, scale)}
          {...line}
          stroke={stands ? "var(--color-primary)" : "var(--soil-line)"}
          strokeWidth={wide + (stands ? 3 : 1.4)}
        />
        <path d={pathOf(points, scale)} {...line} stroke="var(--way)" strokeWidth={wide} />
        <path d={pathOf(points, scale)} {...line} stroke="var(--soil-line)" strokeWidth={1.2} strokeDasharray="2 9" />
        {movable
          ? points.map(([px, py], index) => (
              <circle
                // biome-ignore lint/suspicious/noArrayIndexKey: the index is the point
                key={index}
                cx={px * scale}
                cy={-py * scale}
                r={7}
                fill="var(--color-base-100)"
                stroke="var(--color-primary)"
                strokeWidth={2.5}
                {...hands(index)}
              />
            ))
          : null}
      </g>
    );
  }
  const { place, length_m, width_m } = landmark;
  const [w, h] = [length_m * scale, width_m * scale];
  const pile = Math.min(h, w) * 0.32;
  return (
    <g {...shared} transform={`translate(${place.x_m * scale} ${-place.y_m * scale})`} {...hands(0)}>
      <g transform={`rotate(${-(place.turn_deg ?? 0)})`}>
        <rect
          x={-w / 2}
          y={-h / 2}
          width={w}
          height={h}
          fill="var(--way)"
          stroke={stands ? "var(--color-primary)" : "var(--soil-line)"}
          strokeWidth={stands ? 2.5 : 1.4}
          strokeDasharray={landmark.kind === "tip" ? undefined : "7 4"}
        />
        {landmark.kind === "tip" ? (
          // A truck backs in here: corner posts, and the edge it tips over.
          <path
            d={`M${-w / 2} ${-h / 2}h${w * 0.18}M${-w / 2} ${-h / 2}v${h * 0.3}M${-w / 2} ${h / 2}h${w * 0.18}M${-w / 2} ${h / 2}v${-h * 0.3}`}
            stroke="var(--soil-line)"
            strokeWidth={4}
          />
        ) : null}
        <path
          d={`M${-pile * 1.5} ${pile * 0.6}Q${-pile * 0.3} ${-pile * 1.1} 0 ${-pile}Q${pile * 0.4} ${-pile * 0.9} ${pile * 1.5} ${pile * 0.6}Z`}
          fill="url(#depth-6)"
          stroke="var(--soil-line)"
          strokeWidth={1}
        />
      </g>
    </g>
  );
}

function shifted(landmark: Landmark, index: number, [dx, dy]: XY): Landmark {
  if (landmark.kind === "way") {
    const points_m = (landmark.points_m as XY[]).map(([x, y], at) =>
      at === index ? [toCentimetre(x + dx), toCentimetre(y + dy)] : [x, y],
    ) as XY[];
    return { ...landmark, points_m };
  }
  const { place } = landmark;
  return { ...landmark, place: { ...place, x_m: place.x_m + dx, y_m: place.y_m + dy } };
}

/** The names, on top of everything. */
export function LandmarkTags({
  marks,
  labels,
  chosen,
  scale,
}: Pick<Props, "marks" | "chosen" | "scale"> & { labels: Map<string, string> }) {
  return marks.map(({ id, landmark }) => {
    const text = labels.get(id);
    if (!text) return null;
    const way = landmark.kind === "way";
    const [x, y] = way ? middleOfWay(landmark.points_m as XY[]) : ([landmark.place.x_m, landmark.place.y_m] as XY);
    const drop = way ? 0 : Math.max(0, (landmark.width_m * scale) / 2 - 12);
    return <Tag key={id} text={text} x={x * scale} y={drop - y * scale} chosen={id === chosen} />;
  });
}

/** The walk from the tip to the chosen plot. */
export function Walk({ points, scale }: { points: XY[]; scale: number }) {
  const [[fromX, fromY], [toX, toY]] = points.slice(-2) as [XY, XY];
  // It ends short of the plot's middle, where its name stands.
  const last = Math.hypot(toX - fromX, toY - fromY);
  const part = Math.max(0.4, 1 - 30 / Math.max(1, last * scale));
  const [x, y] = [fromX + (toX - fromX) * part, fromY + (toY - fromY) * part];
  const d = pathOf([...points.slice(0, -1), [x, y]], scale);
  return (
    <g pointerEvents="none" data-testid="walk">
      <path d={d} fill="none" stroke="var(--color-base-100)" strokeWidth={6} strokeLinejoin="round" />
      <path
        d={d}
        fill="none"
        stroke="var(--color-primary)"
        strokeWidth={2.5}
        strokeDasharray="2 6"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
      <circle cx={x * scale} cy={-y * scale} r={4} fill="var(--color-primary)" />
    </g>
  );
}
