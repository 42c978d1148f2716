import { useState } from "react";
import { useParams } from "react-router";
import { Problem } from "@/api/client";
import type { EventOut, PlotOut } from "@/api/schema.gen";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { useSite } from "@/features/survey/site";
import { TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { day, depth, PLACEHOLDER, today } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { useSeasons } from "./seasons";

/** Readings and layers; what else is in the log belongs to the nitrogen account. */
export function hasDepth(
  one: EventOut,
): one is EventOut & { event: Extract<EventOut["event"], { kind: "read" | "laid" }> } {
  return one.event.kind === "read" || one.event.kind === "laid";
}

/** Writes down a depth that was read, or something that was laid. */
export function LogForm({ plot, events, close }: { plot: PlotOut; events: EventOut[]; close: () => void }) {
  const { workspaceId = "" } = useParams();
  const units = useUnits();
  const { sheet } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const { addEvent, removeEvent } = useSeasons();
  const [id, setId] = useState(() => crypto.randomUUID());
  const [kind, setKind] = useState<"read" | "laid">("read");
  const [mm, setMm] = useState("");
  const [on, setOn] = useState(today());
  const [material, setMaterial] = useState("arborist_leafy");
  const problem = addEvent.error instanceof Problem ? addEvent.error : null;
  const errors = problem?.byField ?? {};
  return (
    <form
      noValidate
      className="space-y-3 py-3"
      aria-label="Log"
      onSubmit={(event) => {
        event.preventDefault();
        const entry = kind === "read" ? { kind, depth_mm: mm } : { kind, depth_mm: mm, material };
        addEvent.mutate(
          { id, plot_id: plot.id, on, units: siteUnits, event: entry },
          {
            onSuccess: () => {
              setId(crypto.randomUUID());
              setMm("");
            },
          },
        );
      }}
    >
      <h2 className="text-xl">{plot.name}: log</h2>
      <div className="join" role="group" aria-label="What is logged">
        {(["read", "laid"] as const).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={kind === one}
            className={`btn join-item press ${kind === one ? "btn-neutral" : ""}`}
            onClick={() => setKind(one)}
          >
            {one === "read" ? "Depth read" : "Laid"}
          </button>
        ))}
      </div>
      {kind === "laid" ? (
        <MaterialSelect
          workspaceId={workspaceId}
          label="Material"
          value={material}
          change={setMaterial}
          error={errors["event.material"]}
        />
      ) : null}
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label={kind === "read" ? "Depth" : "Depth, settled"}
          unit={PLACEHOLDER.depth[siteUnits]}
          value={mm}
          onChange={setMm}
          error={errors["event.depth_mm"]}
          autoFocus
        />
        <TextField label="On" type="date" value={on} onChange={setOn} error={errors.on} />
      </div>
      <FormFoot problem={problem} busy={addEvent.isPending} save="Write it down" close={close} />
      {events.some(hasDepth) ? (
        <ul className="divide-y divide-base-300 border-y border-base-300" data-testid="events">
          {[...events]
            .reverse()
            .filter(hasDepth)
            .map((one) => (
              <li key={one.id} className="flex items-center gap-3 py-1">
                <span className="grow">
                  {day(one.on)}: {one.event.kind === "read" ? "read" : "laid"}{" "}
                  {depth(one.event.depth_mm, units)}
                  <span className="text-sm text-base-content/75">, {one.by}</span>
                </span>
                <button
                  type="button"
                  className="btn btn-ghost btn-sm press"
                  onClick={() => removeEvent.mutate(one.id)}
                >
                  Delete
                </button>
              </li>
            ))}
        </ul>
      ) : null}
    </form>
  );
}
