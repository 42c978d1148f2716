import type { BuyingEntry, BuyingOut, CarrierKind, UnitSystem } from "@/api/schema.gen";
import { useSession } from "@/features/accounts/session";
import { usePlanChanges } from "@/features/supply/supply";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/money";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { share } from "@/ui/format";
import { Sentence } from "@/ui/Sentence";

const CARRIERS: Record<CarrierKind, string> = {
  barrow: t("barrow"),
  bin: t("wheeledBin"),
  cart: t("cart"),
  loader: t("compactLoader"),
};

type Texts = Record<
  "currency" | "wanted_by" | "budget" | "sure" | "people" | "labour_per_h" | "markup" | "disposal" | "tax",
  string
> & { carriers: CarrierKind[] };

function textsOf(buying: BuyingOut): Texts {
  const typed = buying.typed as Record<string, string | undefined>;
  return {
    currency: buying.currency,
    wanted_by: buying.wanted_by ?? "",
    budget: typed.budget ?? (buying.budget === null ? "" : String(buying.budget)),
    sure: String(buying.sure),
    people: String(buying.people),
    carriers: buying.carriers,
    labour_per_h: typed.labour_per_h ?? String(buying.labour_per_h),
    markup: typed.markup ?? share(buying.markup),
    disposal: typed.disposal ?? String(buying.disposal),
    tax: typed.tax ?? share(buying.tax),
  };
}

function entryOf(texts: Texts, units: UnitSystem): BuyingEntry {
  const { budget, wanted_by, sure, people, ...rest } = texts;
  return {
    ...rest,
    units,
    budget: budget.trim() || null,
    wanted_by: wanted_by || null,
    sure: Number(sure) as 50 | 80 | 95,
    people: (/^\d+$/.test(people.trim()) ? Number(people) : people) as number,
  };
}

/** How this site buys and has its work done; what to order, hours and quotes follow. */
export function BuyingForm({ buying, edit }: { buying: BuyingOut; edit: boolean }) {
  const { data: session } = useSession();
  const { sheet } = useSite();
  const { buying: saving } = usePlanChanges();
  const units = sheet.data?.site.units ?? session?.user?.units ?? "metric";
  const form = useFields<Texts>({ start: textsOf(buying), problem: saving.error });
  const { field, change } = form;
  const texts = form.values;
  return (
    <form
      noValidate
      data-testid="buying"
      onSubmit={form.onSubmit((texts) =>
        saving.mutate({ entry: entryOf(texts, units), version: buying.version }, { onSuccess: () => form.clear() }),
      )}
    >
      <fieldset disabled={!edit} className="space-y-3">
        <h2 className="text-xl">{t("buyingAndWork")}</h2>
        <div className="grid grid-cols-2 gap-3">
          <TextField label={t("neededBy")} type="date" {...field("wanted_by")} />
          <TextField label={t("budget")} unit={texts.currency} {...field("budget")} hint={t("forChipsAndDelivery")} />
          <SelectField
            label={t("certainty")}
            {...field("sure")}
            options={[
              ["50", t("n50")],
              ["80", "80 %"],
              ["95", "95 %"],
            ]}
            hint={t("chanceThatTheLoadsAreEnough")}
          />
          <TextField
            label={t("currency")}
            {...field("currency")}
            onChange={(currency) => change({ currency: currency.toUpperCase() })}
            error={form.errorAt("currency") && t("threeLettersSuchAsEurOr")}
          />
          <TextField label={t("people")} {...field("people")} />
          <TextField label={t("labourPerHour")} unit={texts.currency} {...field("labour_per_h")} />
          <TextField label={t("markupOnMaterials")} unit="%" {...field("markup")} hint={t("forHandling")} />
          <TextField label={t("wasteDisposal")} unit={texts.currency} {...field("disposal")} />
          <TextField label={t("taxHeading")} unit="%" {...field("tax")} />
        </div>
        <fieldset>
          <legend className="mb-1 text-sm font-semibold">{t("carriers")}</legend>
          <div className="flex flex-wrap gap-2">
            {(Object.keys(CARRIERS) as CarrierKind[]).map((kind) => {
              const on = texts.carriers.includes(kind);
              return (
                <button
                  key={kind}
                  type="button"
                  aria-pressed={on}
                  className={`btn press ${on ? "btn-secondary" : ""}`}
                  disabled={on && texts.carriers.length === 1}
                  onClick={() =>
                    change({
                      carriers: on ? texts.carriers.filter((carrier) => carrier !== kind) : [...texts.carriers, kind],
                    })
                  }
                >
                  {CARRIERS[kind]}
                </button>
              );
            })}
          </div>
        </fieldset>
        <Sentence text={form.sentence} />
        <Button shown={edit} type="submit" primary disabled={!form.changed || saving.isPending}>
          {saving.isPending ? t("saving") : t("save")}
        </Button>
      </fieldset>
    </form>
  );
}
