import type { DayOfYear, SeasonsSheet } from "@/api/schema.gen";
import { t } from "@/texts/schedule";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { temperature } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { useSeasons } from "./seasons";

const YEAR = 2025;

function dayText(day: number | null | undefined) {
  if (day == null) return "";
  const date = new Date(Date.UTC(YEAR, 0, day, 12));
  return date.toISOString().slice(5, 10);
}

function dayOf(text: string): number | null | undefined {
  if (text.trim() === "") return null;
  const match = /^(\d{1,2})-(\d{1,2})$/.exec(text.trim());
  if (!match) return undefined;
  const moment = Date.UTC(YEAR, Number(match[1]) - 1, Number(match[2]));
  const day = Math.round((moment - Date.UTC(YEAR, 0, 1)) / 86_400_000) + 1;
  return Number.isFinite(day) && day >= 1 && day <= 366 ? day : undefined;
}

const two = (part: number) => String(part).padStart(2, "0");
const monthDay = ({ month, day }: DayOfYear) => `${two(month)}-${two(day)}`;

function partsOf(text: string): DayOfYear {
  const [month = 1, day = 1] = text.trim().split("-").map(Number);
  return { month, day };
}

/** Frost, hardiness and the windows for laying: derived, and what is said instead. */
export function WindowsForm({ seasons, edit }: { seasons: SeasonsSheet; edit: boolean }) {
  const units = useUnits();
  const { override } = useSeasons();
  const { overridden: own, place_year: derived } = seasons;
  const form = useFields({
    start: {
      last: dayText(derived.last_frost),
      first: dayText(derived.first_frost),
      zone: derived.zone,
      windows: seasons.windows.map(({ key, name, dates }) => ({
        key,
        name,
        opens: monthDay(dates.opens),
        closes: monthDay(dates.closes),
        before: `${monthDay(dates.opens)} ${monthDay(dates.closes)}`,
      })),
      waits: (own.waits == null ? "" : String(own.waits)) as "" | "true" | "false",
    },
    problem: override.error,
  });
  const { last, first, zone, windows, waits } = form.values;
  const bad = (text: string) => (dayOf(text) === undefined ? t("typeMonthAndDayLike04") : undefined);
  const { closures: _, people: __, ...dates } = own;
  const overridden = Object.entries(dates).some(([key, value]) =>
    key === "windows" ? Object.keys(value ?? {}).length > 0 : value !== null && value !== undefined,
  );
  const badWindow = windows.some(({ opens, closes }) => dayOf(opens) == null || dayOf(closes) == null);
  return (
    <form
      noValidate
      data-testid="windows"
      onSubmit={form.onSubmit(() => {
        const [a, b] = [dayOf(last), dayOf(first)];
        if (a === undefined || b === undefined || badWindow) return;
        // What was not touched stays derived.
        const typedOr = <T,>(value: T, before: T, own: unknown) => (own == null && value === before ? null : value);
        override.mutate({
          last_frost: typedOr(a, derived.last_frost, own.last_frost),
          first_frost: typedOr(b, derived.first_frost, own.first_frost),
          zone: typedOr(zone.trim(), derived.zone, own.zone) || null,
          windows: Object.fromEntries(
            windows
              .filter(({ key, opens, closes, before }) => own.windows?.[key] || `${opens} ${closes}` !== before)
              .map(({ key, opens, closes }) => [key, { opens: partsOf(opens), closes: partsOf(closes) }]),
          ),
          waits: waits === "" ? null : waits === "true",
        });
      })}
    >
      <fieldset disabled={!edit} className="space-y-3">
        <h2 className="text-xl">{t("seasonsOfThisSite")}</h2>
        <p className="text-sm text-base-content/75">
          {t("coldestNightOfAUsualYear", {
            origin: overridden ? `${t("asYouSet")} ` : "",
            source: derived.source.text,
            temperature: temperature(derived.coldest_c, units),
          })}
        </p>
        <div className="grid grid-cols-3 gap-3">
          <TextField label={t("lastFrost")} {...form.field("last")} error={bad(last)} hint={t("monthDay")} />
          <TextField label={t("firstFrost")} {...form.field("first")} error={bad(first)} hint={t("monthDay")} />
          <TextField
            label={t("hardinessZone")}
            {...form.field("zone")}
            error={form.errorAt("zone") && t("forExample8b")}
          />
        </div>
        {windows.map((window, at) => (
          <div key={window.key} className="grid grid-cols-2 gap-3">
            {(["opens", "closes"] as const).map((end) => (
              <TextField
                key={end}
                label={end === "opens" ? t("opens", { season: window.name }) : t("closes", { season: window.name })}
                value={window[end]}
                onChange={(text) =>
                  form.change({
                    windows: windows.map((window, index) => (index === at ? { ...window, [end]: text } : window)),
                  })
                }
                error={bad(window[end]) ?? form.errorAt(`windows.${window.key}.${end}.day`)}
                hint={t("monthDay")}
              />
            ))}
          </div>
        ))}
        <SelectField
          label={t("whenChipsAreShort")}
          {...form.field("waits")}
          options={{
            "": own.waits == null && seasons.waits ? t("proposedWaitBecauseNoSupplierSells") : t("useTheProposal"),
            true: t("waitForLoadsThatAreLikely"),
            false: t("buyTheRestAndLayWhen"),
          }}
        />
        {edit ? (
          <div className="flex gap-2">
            <Button type="submit" primary disabled={override.isPending || badWindow}>
              {t("save")}
            </Button>
            <Button shown={Boolean(overridden)} onClick={() => override.mutate({})}>
              {t("useCalculatedDates")}
            </Button>
          </div>
        ) : null}
      </fieldset>
    </form>
  );
}
