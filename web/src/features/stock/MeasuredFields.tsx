import type { UnitSystem } from "@/api/schema.gen";
import { TextField } from "@/ui/Field";
import { PLACEHOLDER } from "@/ui/format";
import type { MeasuredKind, MeasuredTexts } from "./measured";

const WAYS: Record<MeasuredKind, string> = {
  heap: "by tape",
  barrows: "by barrows",
  weight: "by weight",
  stated: "as stated",
};

/** How much it is: a heap measured with a tape, barrows counted, weighed, or as somebody says. */
export function MeasuredFields({
  value,
  change,
  units,
  errors,
  ways,
}: {
  value: MeasuredTexts;
  change: (next: MeasuredTexts) => void;
  units: UnitSystem;
  errors: Record<string, string>;
  ways: MeasuredKind[];
}) {
  const length = PLACEHOLDER.length[units];
  const field = (key: Exclude<keyof MeasuredTexts, "by">) => ({
    name: key,
    value: value[key],
    onChange: (text: string) => change({ ...value, [key]: text }),
    error: value[key].trim() === "" ? undefined : errors[`measured.${key}`],
  });
  return (
    <div className="space-y-2">
      <div className="join flex-wrap" role="group" aria-label="How it was measured">
        {ways.map((by) => (
          <button
            key={by}
            type="button"
            aria-pressed={value.by === by}
            className={`btn join-item press px-3 ${value.by === by ? "btn-neutral" : ""}`}
            onClick={() => change({ ...value, by })}
          >
            {WAYS[by]}
          </button>
        ))}
      </div>
      {value.by === "heap" ? (
        <div className="grid grid-cols-3 gap-3">
          <TextField label="Width at the foot" unit={length} {...field("width_m")} />
          <TextField label="Height" unit={length} {...field("height_m")} />
          <TextField label="Ridge" unit={length} {...field("ridge_m")} hint="0 for a cone" />
        </div>
      ) : value.by === "barrows" ? (
        <div className="grid grid-cols-2 gap-3">
          <TextField label="Barrows" {...field("barrows")} />
          <TextField label="One barrow" unit={units === "us" ? "cu ft" : "L"} {...field("barrow_m3")} />
        </div>
      ) : value.by === "weight" ? (
        <TextField
          label="Weight"
          unit={units === "us" ? "lb" : "kg"}
          {...field("mass_kg")}
          hint="As it comes"
        />
      ) : (
        <TextField label="Volume" unit={PLACEHOLDER.volume[units]} {...field("volume_m3")} />
      )}
      {errors.measured ? (
        <p className="text-sm font-medium text-error" role="alert">
          {errors.measured}
        </p>
      ) : null}
    </div>
  );
}
