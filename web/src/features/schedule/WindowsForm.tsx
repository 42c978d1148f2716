import { useEffect, useState } from "react";
import type { SeasonsSheet } from "@/api/schema.gen";
import { t } from "@/texts/schedule";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { temperature } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { dayOfYearText, numberOf, readDayOfYear, textOfNumber } from "./dayOfYear";
import { useSeasons } from "./seasons";

/** Frost, hardiness and the windows for laying: derived, and what is said instead. While somebody types, dates that
 *  follow from new weather do not take the place of what is typed. */
export function WindowsForm({ seasons, edit }: { seasons: SeasonsSheet; edit: boolean }) {
  const [shown, setShown] = useState(seasons);
  const [typing, setTyping] = useState(false);
  if (!typing && shown !== seasons) setShown(seasons);
  return <DatesForm key={JSON.stringify(shown.windows)} seasons={shown} edit={edit} tellTyping={setTyping} />;
}

interface DatesProps {
  seasons: SeasonsSheet;
  edit: boolean;
  tellTyping: (typing: boolean) => void;
}

function DatesForm({ seasons, edit, tellTyping }: DatesProps) {
  const units = useUnits();
  const { override } = useSeasons();
  const { overridden: own, place_year: derived } = seasons;
  const form = useFields({
    start: {
      last: textOfNumber(derived.last_frost),
      first: textOfNumber(derived.first_frost),
      zone: derived.zone,
      windows: seasons.windows.map(({ key, name, dates }) => ({
        key,
        name,
        opens: dayOfYearText(dates.opens),
        closes: dayOfYearText(dates.closes),
        before: `${dayOfYearText(dates.opens)} ${dayOfYearText(dates.closes)}`,
      })),
      waits: (own.waits == null ? "" : String(own.waits)) as "" | "true" | "false",
    },
    problem: override.error,
  });
  const { last, first, zone, windows, waits } = form.values;
  const { changed } = form;
  useEffect(() => tellTyping(changed), [changed, tellTyping]);
  const bad = (text: string) => (readDayOfYear(text) === undefined ? t("typeADayLike") : undefined);
  const { closures: _, people: __, ...dates } = own;
  const overridden = Object.entries(dates).some(([key, value]) =>
    key === "windows" ? Object.keys(value ?? {}).length > 0 : value !== null && value !== undefined,
  );
  const badWindow = windows.some(({ opens, closes }) => !readDayOfYear(opens) || !readDayOfYear(closes));
  return (
    <form
      noValidate
      data-testid="windows"
      onSubmit={form.onSubmit(() => {
        const [lastFrost, firstFrost] = [readDayOfYear(last), readDayOfYear(first)];
        if (lastFrost === undefined || firstFrost === undefined || badWindow) return;
        // What was not touched stays derived.
        const typedOr = <T,>(value: T, before: T, own: unknown) => (own == null && value === before ? null : value);
        const entry = {
          last_frost: typedOr(lastFrost && numberOf(lastFrost), derived.last_frost, own.last_frost),
          first_frost: typedOr(firstFrost && numberOf(firstFrost), derived.first_frost, own.first_frost),
          zone: typedOr(zone.trim(), derived.zone, own.zone) || null,
          windows: Object.fromEntries(
            windows.flatMap(({ key, before, ...texts }) => {
              const [opens, closes] = [readDayOfYear(texts.opens), readDayOfYear(texts.closes)];
              const isTyped = own.windows?.[key] || `${texts.opens} ${texts.closes}` !== before;
              return opens && closes && isTyped ? [[key, { opens, closes }]] : [];
            }),
          ),
          waits: waits === "" ? null : waits === "true",
        };
        override.mutate(entry, { onSuccess: () => form.clear() });
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
          <TextField label={t("lastFrost")} {...form.field("last")} error={bad(last)} hint={t("forExample15Apr")} />
          <TextField label={t("firstFrost")} {...form.field("first")} error={bad(first)} hint={t("forExample15Apr")} />
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
                hint={t("forExample15Apr")}
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
            <Button shown={Boolean(overridden)} onClick={() => override.mutate({}, { onSuccess: () => form.clear() })}>
              {t("useCalculatedDates")}
            </Button>
          </div>
        ) : null}
      </fieldset>
    </form>
  );
}
