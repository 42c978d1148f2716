import { useState } from "react";
import { Problem } from "@/api/client";
import type { PlotFuture, PlotOut, RuleCompared, RuleEntry, UnitSystem } from "@/api/schema.gen";
import { useSite } from "@/features/survey/site";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { depth, money, PLACEHOLDER, perArea, shown, volume } from "@/ui/format";
import { Loading } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { useSeasonsContext } from "./SeasonsPage";
import { useCompared, useSeasons } from "./seasons";

type Kind = PlotFuture["rule"]["kind"];
type Field = "least_mm" | "to_mm" | "layer_mm" | "years" | "month" | "months" | "rounds" | "months_apart";

const KINDS: Record<NonNullable<Kind>, { label: string; fields: Field[] }> = {
  hold: { label: "Hold above a depth", fields: ["least_mm", "to_mm"] },
  thin: { label: "Thin, in fixed months", fields: ["layer_mm", "months"] },
  every: { label: "Up to a depth every few years", fields: ["to_mm", "years", "month"] },
  quarter: { label: "A quarter of the ring each autumn", fields: ["layer_mm", "month"] },
  harvest: { label: "Harvest the crumb and refill", fields: ["to_mm", "years", "month"] },
  rounds: { label: "Several rounds over running grass", fields: ["to_mm", "rounds", "months_apart"] },
  once: { label: "Once only", fields: [] },
};
const LABELS: Record<Field, string> = {
  least_mm: "Never below",
  to_mm: "Lay up to",
  layer_mm: "Each time",
  years: "Every so many years",
  month: "In month (1 to 12)",
  months: "In months (such as 4, 10)",
  rounds: "Rounds",
  months_apart: "Months apart",
};

function textsOf(rule: PlotFuture["rule"], units: UnitSystem): Record<Field, string> {
  const given = rule as unknown as Record<string, number | number[] | undefined>;
  const text = (field: Field, fallback: string) => {
    const value = given[field];
    if (value === undefined) return fallback;
    if (Array.isArray(value)) return value.join(", ");
    return field.endsWith("_mm") ? depth(value, units) : String(value);
  };
  const us = units === "us";
  return {
    least_mm: text("least_mm", us ? "2 in" : "50 mm"),
    to_mm: text("to_mm", us ? "3 in" : "75 mm"),
    layer_mm: text("layer_mm", us ? "1 1/2 in" : "40 mm"),
    years: text("years", "2"),
    month: text("month", "11"),
    months: text("months", "4, 10"),
    rounds: text("rounds", "3"),
    months_apart: text("months_apart", "8"),
  };
}

function entryOf(kind: NonNullable<Kind>, texts: Record<Field, string>, units: UnitSystem): RuleEntry {
  const rule: Record<string, unknown> = { kind };
  for (const field of KINDS[kind].fields) {
    const text = texts[field].trim();
    rule[field] = field.endsWith("_mm")
      ? text
      : field === "months"
        ? text.split(/[\s,;]+/).map(Number)
        : /^\d+$/.test(text)
          ? Number(text)
          : text;
  }
  return { units, rule: rule as unknown as RuleEntry["rule"] };
}

/** When a plot is laid again, and what other rules would take. */
export function RulePanel({ plot, future, close }: { plot: PlotOut; future: PlotFuture; close: () => void }) {
  const units = useUnits();
  const { sheet } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const { rule } = useSeasons();
  const [kind, setKind] = useState<NonNullable<Kind>>(future.rule.kind ?? "hold");
  const [texts, setTexts] = useState(() => textsOf(future.rule, siteUnits));
  const problem = rule.error instanceof Problem ? rule.error : null;
  const errors = problem?.byField ?? {};
  const save = (entry: RuleEntry) =>
    rule.mutate({ plot_id: plot.id, version: plot.version, entry }, { onSuccess: close });
  return (
    <form
      noValidate
      className="space-y-3 py-3"
      aria-label="Rule of renewal"
      onSubmit={(event) => {
        event.preventDefault();
        save(entryOf(kind, texts, siteUnits));
      }}
    >
      <h2 className="text-xl">{plot.name}: when to lay again</h2>
      <SelectField
        label="Rule"
        value={kind}
        onChange={(next) => setKind(next as NonNullable<Kind>)}
        options={Object.entries(KINDS).map(([key, { label }]): [string, string] => [key, label])}
        hint={future.proposed ? "Proposed by its use and your practice" : "Chosen for this plot"}
      />
      <div className="grid grid-cols-2 gap-3">
        {KINDS[kind].fields.map((field) => (
          <TextField
            key={field}
            label={LABELS[field]}
            unit={field.endsWith("_mm") ? PLACEHOLDER.depth[siteUnits] : ""}
            value={texts[field]}
            onChange={(text) => setTexts((before) => ({ ...before, [field]: text }))}
            error={errors[`rule.${field}`] ?? errors[`rule.${field}.0`]}
          />
        ))}
      </div>
      {future.proposed ? null : (
        <button
          type="button"
          className="btn btn-sm press"
          onClick={() => save({ units: siteUnits, rule: null })}
        >
          Take the proposed rule
        </button>
      )}
      <FormFoot problem={problem} busy={rule.isPending} save="Save the rule" close={close} />
      <Compared plotId={plot.id} />
    </form>
  );
}

function words(one: RuleCompared, units: UnitSystem) {
  const { rule } = one;
  switch (rule.kind) {
    case "hold":
      return `Hold above ${depth(rule.least_mm, units)}`;
    case "thin":
      return `${depth(rule.layer_mm, units)} ${rule.months.length === 2 ? "twice" : `${rule.months.length} times`} a year`;
    case "every":
      return `Up to ${depth(rule.to_mm, units)} every ${rule.years} years`;
    case "harvest":
      return `Harvest and refill every ${rule.years} years`;
    default:
      return one.words;
  }
}

/** Rules side by side on this plot: what each takes in a year, and what it keeps. */
function Compared({ plotId }: { plotId: string }) {
  const units = useUnits();
  const { seasons } = useSeasonsContext();
  const compared = useCompared(plotId);
  if (!compared.data) return <Loading what="other rules" />;
  return (
    <section data-testid="compared">
      <h3 className="text-lg">Side by side, over ten years</h3>
      <div className="overflow-x-auto">
        <table className="w-full text-sm">
          <thead className="text-left text-base-content/75">
            <tr>
              <th className="font-normal">Rule</th>
              <th className="text-right font-normal">a year</th>
              <th className="text-right font-normal">hours</th>
              <th className="text-right font-normal">cost</th>
              <th className="pl-2 text-right font-normal">least</th>
              <th className="text-right font-normal">crumb</th>
            </tr>
          </thead>
          <tbody>
            {compared.data.map((one, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rules are known by their place
              <tr key={index} className="border-t border-base-300">
                <td className="py-1 pr-2">
                  {words(one, units)}
                  {index === 0 ? <span className="text-base-content/75"> (now)</span> : null}
                </td>
                <td className="text-right font-semibold whitespace-nowrap">{volume(one.volume_m3, units)}</td>
                <td className="text-right whitespace-nowrap">{shown(one.hours, "h", units)}</td>
                <td className="text-right whitespace-nowrap">
                  {one.cost === null ? "unknown" : one.cost > 0 ? money(one.cost, seasons.currency) : "free"}
                </td>
                <td className="pl-2 text-right whitespace-nowrap">{depth(one.least_mm, units)}</td>
                <td className="pl-2 text-right whitespace-nowrap">{perArea(one.crumb_kg_m2, units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
