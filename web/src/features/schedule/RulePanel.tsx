import { useState } from "react";
import { Problem } from "@/api/client";
import type { PlotFuture, PlotOut, RuleCompared, RuleEntry, UnitSystem } from "@/api/schema.gen";
import { sent } from "@/api/sent";
import { useSite } from "@/features/survey/site";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { about, depth, money, perArea, shown } from "@/ui/format";
import { Loading } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { useSeasonsContext } from "./SeasonsPage";
import { useCompared, useSeasons } from "./seasons";

type Kind = PlotFuture["rule"]["kind"];
type Field = "part" | "years" | "window" | "rounds" | "months_apart";

const KINDS: Record<NonNullable<Kind>, { label: string; fields: Field[] }> = {
  keep: { label: "Keep the recipe", fields: [] },
  thin: { label: "Thin, in spring and autumn", fields: ["part"] },
  every: { label: "Up to the target every few years", fields: ["years", "window"] },
  quarter: { label: "A quarter of the ring each year", fields: ["window"] },
  harvest: { label: "Harvest the humus and refill", fields: ["years", "window"] },
  rounds: { label: "Several rounds over grass", fields: ["rounds", "months_apart"] },
  once: { label: "Once only", fields: [] },
};
const LABELS: Record<Exclude<Field, "window">, string> = {
  part: "Part of the target each time",
  years: "Every so many years",
  rounds: "Rounds",
  months_apart: "Months apart",
};

function textsOf(rule: PlotFuture["rule"]): Record<Field, string> {
  const given: Record<string, unknown> = { ...rule };
  const text = (field: Field, fallback: string) => String(given[field] ?? fallback);
  return {
    part: given.part === undefined ? "100 %" : `${Math.round(Number(given.part) * 100)} %`,
    years: text("years", "2"),
    window: text("window", ""),
    rounds: text("rounds", "3"),
    months_apart: text("months_apart", "8"),
  };
}

function entryOf(kind: NonNullable<Kind>, texts: Record<Field, string>, units: UnitSystem): RuleEntry {
  const rule: Record<string, unknown> = { kind };
  for (const field of KINDS[kind].fields) {
    const text = texts[field].trim();
    if (field === "window") rule.window = text || null;
    else if (field === "part") rule.part = Number(text.replace("%", "").replace(",", ".")) / 100;
    else rule[field] = /^\d+$/.test(text) ? Number(text) : text;
  }
  return { units, rule: sent<RuleEntry["rule"]>(rule) };
}

/** When a plot is laid again, and what other rules would take. */
export function RulePanel({ plot, future, close }: { plot: PlotOut; future: PlotFuture; close: () => void }) {
  const units = useUnits();
  const { sheet } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const { rule } = useSeasons();
  const [kind, setKind] = useState<NonNullable<Kind>>(future.rule.kind ?? "keep");
  const [texts, setTexts] = useState(() => textsOf(future.rule));
  const { seasons } = useSeasonsContext();
  const windows = seasons.windows.map(({ key, name }): [string, string] => [key, name]);
  const problem = rule.error instanceof Problem ? rule.error : null;
  const errors = problem?.byField ?? {};
  const save = (entry: RuleEntry) =>
    rule.mutate({ plot_id: plot.id, version: plot.version, entry }, { onSuccess: close });
  return (
    <form
      noValidate
      className="space-y-3 py-3"
      aria-label={`Rule of ${plot.name}`}
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
        {KINDS[kind].fields.map((field) =>
          field === "window" ? (
            <SelectField
              key={field}
              label="In"
              value={texts.window}
              onChange={(window) => setTexts((before) => ({ ...before, window }))}
              options={[["", "the practice’s season"], ...windows]}
            />
          ) : (
            <TextField
              key={field}
              label={LABELS[field]}
              value={texts[field]}
              onChange={(text) => setTexts((before) => ({ ...before, [field]: text }))}
              error={errors[`rule.${field}`]}
            />
          ),
        )}
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

function words(compared: RuleCompared) {
  const { rule } = compared;
  if (rule.kind === "every") return `Up to the target every ${rule.years} years`;
  if (rule.kind === "harvest") return `Harvest and refill every ${rule.years} years`;
  return compared.words;
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
              <th className="text-right font-normal">humus</th>
            </tr>
          </thead>
          <tbody>
            {compared.data.map((rule, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rules are known by their place
              <tr key={index} className="border-t border-base-300">
                <td className="py-1 pr-2">
                  {words(rule)}
                  {index === 0 ? <span className="text-base-content/75"> (now)</span> : null}
                </td>
                <td className="text-right font-semibold whitespace-nowrap">{about(rule.volume_m3, units)}</td>
                <td className="text-right whitespace-nowrap">{shown(rule.hours, "h", units)}</td>
                <td className="text-right whitespace-nowrap">
                  {rule.cost === null
                    ? "unknown"
                    : rule.cost > 0
                      ? money(rule.cost, seasons.now.currency)
                      : "free"}
                </td>
                <td className="pl-2 text-right whitespace-nowrap">{depth(rule.least_mm, units)}</td>
                <td className="pl-2 text-right whitespace-nowrap">{perArea(rule.humus_kg_m2, units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
