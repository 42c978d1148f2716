import type { PlotFuture, PlotOut, RuleCompared, RuleEntry, UnitSystem } from "@/api/schema.gen";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/schedule";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { money, perArea, valueText } from "@/ui/format";
import { about, aboutDepth } from "@/ui/precision";
import { Scroll } from "@/ui/Scroll";
import { Loading } from "@/ui/states";
import { Table } from "@/ui/Table";
import { useUnits } from "@/ui/units";
import { useCompared, useSeasons } from "./seasons";
import { useSeasonsContext } from "./seasonsContext";

type Kind = PlotFuture["rule"]["kind"];
type Field = "part" | "years" | "window" | "rounds" | "months_apart";

const KINDS: Record<NonNullable<Kind>, { label: string; fields: Field[] }> = {
  keep: { label: t("keepTheRecipe"), fields: [] },
  thin: { label: t("thinInSpringAndAutumn"), fields: ["part"] },
  every: { label: t("fillToTheTargetEveryFew"), fields: ["years", "window"] },
  quarter: { label: t("aQuarterOfTheRingEach"), fields: ["window"] },
  harvest: { label: t("harvestTheHumusAndRefill"), fields: ["years", "window"] },
  rounds: { label: t("severalRoundsOnGrass"), fields: ["rounds", "months_apart"] },
  once: { label: t("onceOnly"), fields: [] },
};
const KIND_LABELS = Object.entries(KINDS).map(([kind, { label }]) => [kind, label] as [NonNullable<Kind>, string]);
const LABELS: Record<Exclude<Field, "window">, string> = {
  part: t("shareOfTheTargetEachTime"),
  years: t("intervalYears"),
  rounds: t("rounds"),
  months_apart: t("monthsApart"),
};

function textsOf(rule: PlotFuture["rule"]): Record<Field, string> {
  const values: Record<string, unknown> = { ...rule };
  const text = (field: Field, fallback: string) => String(values[field] ?? fallback);
  return {
    part: values.part === undefined ? "100 %" : `${Math.round(Number(values.part) * 100)} %`,
    years: text("years", "2"),
    window: text("window", ""),
    rounds: text("rounds", "3"),
    months_apart: text("months_apart", "8"),
  };
}

function entryOf(kind: NonNullable<Kind>, texts: Record<Field, string>, units: UnitSystem): RuleEntry {
  const rule: NonNullable<RuleEntry["rule"]> = { kind };
  for (const field of KINDS[kind].fields) {
    const text = texts[field].trim();
    if (field === "window") rule.window = text || null;
    else if (field === "part") rule.part = Number(text.replace("%", "").replace(",", ".")) / 100;
    else rule[field] = /^\d+$/.test(text) ? Number(text) : text;
  }
  return { units, rule };
}

/** When a plot is laid again, and what other rules would take. */
export function RulePanel({ plot, future, close }: { plot: PlotOut; future: PlotFuture; close: () => void }) {
  const units = useUnits();
  const { sheet } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const { rule } = useSeasons();
  const form = useFields({
    start: { kind: future.rule.kind ?? ("keep" as NonNullable<Kind>), ...textsOf(future.rule) },
    problem: rule.error,
  });
  const { kind } = form.values;
  const { seasons } = useSeasonsContext();
  const windows = seasons.windows.map(({ key, name }): [string, string] => [key, name]);
  const save = (entry: RuleEntry) =>
    rule.mutate({ plot_id: plot.id, version: plot.version, entry }, { onSuccess: close });
  return (
    <form
      noValidate
      className="space-y-3 py-3"
      aria-label={t("ruleOf", { name: plot.name })}
      onSubmit={form.onSubmit((texts) => save(entryOf(kind, texts, siteUnits)))}
    >
      <h2 className="text-xl">{t("ruleForLayingAgain", { name: plot.name })}</h2>
      <SelectField
        label={t("rule")}
        {...form.field("kind")}
        options={KIND_LABELS}
        hint={future.proposed ? t("proposedFromItsUseAndYour") : t("chosenForThisPlot")}
      />
      <div className="grid grid-cols-2 gap-3">
        {KINDS[kind].fields.map((field) =>
          field === "window" ? (
            <SelectField
              key={field}
              label={t("in")}
              {...form.field("window")}
              options={[["", t("theSeasonOfYourPractice")], ...windows]}
            />
          ) : (
            <TextField key={field} label={LABELS[field]} {...form.field(field, `rule.${field}`)} />
          ),
        )}
      </div>
      {future.proposed ? null : (
        <Button small onClick={() => save({ units: siteUnits, rule: null })}>
          {t("useTheProposedRule")}
        </Button>
      )}
      <FormFoot sentence={form.sentence} busy={rule.isPending} save={t("saveRule")} close={close} />
      <Compared plotId={plot.id} />
    </form>
  );
}

function words(compared: RuleCompared) {
  const { rule } = compared;
  if (rule.kind === "every") return t("fillToTheTargetEveryYears", { years: rule.years });
  if (rule.kind === "harvest") return t("harvestAndRefillEveryYears", { years: rule.years });
  return compared.words;
}

/** Rules side by side on this plot: what each takes in a year, and what it keeps. */
function Compared({ plotId }: { plotId: string }) {
  const units = useUnits();
  const { seasons } = useSeasonsContext();
  const compared = useCompared(plotId);
  if (!compared.data) return <Loading what={t("otherRules")} />;
  const priceOf = (cost: number | null) =>
    cost === null ? t("unknown") : cost > 0 ? money(cost, seasons.now.currency) : t("free");
  return (
    <section data-testid="compared">
      <h3 className="text-lg">{t("comparisonOverTenYears")}</h3>
      <Scroll label={t("comparisonOverTenYears")}>
        <Table
          className="w-full text-sm"
          rows={compared.data}
          columns={[
            [t("rule"), (rule, index) => `${words(rule)}${index === 0 ? ` ${t("now")}` : ""}`],
            [t("aYear"), (rule) => <strong>{about(rule.volume_m3, units)}</strong>],
            [t("hours"), (rule) => valueText(rule.hours, "h", units)],
            [t("cost"), ({ cost }) => priceOf(cost)],
            [t("least"), (rule) => aboutDepth(rule.least_mm, units)],
            [t("humus"), (rule) => perArea(rule.humus_kg_m2, units)],
          ]}
        />
      </Scroll>
    </section>
  );
}
