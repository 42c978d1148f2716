import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { api } from "@/api/client";
import type { NormalsOutput as Normals, SiteOut, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { DataTable } from "@/ui/DataTable";
import { SelectField, TextField } from "@/ui/Field";
import { rain, temperature } from "@/ui/format";
import { dateFormat } from "@/ui/intl";
import { Grid, linePath, Words } from "@/ui/picture";
import { Tick } from "@/ui/Tick";

/** The climate as it stands in the form. */
export interface ClimateTexts {
  /** Empty, "normals", or the name of a generic climate. */
  climate: string;
  southern: boolean;
  temperatures_c: string;
  rain_mm: string;
}

const NO_CLIMATE: ClimateTexts = { climate: "", southern: false, temperatures_c: "", rain_mm: "" };

export function climateOf({ climate, typed, units }: SiteOut): ClimateTexts {
  if (!climate) return NO_CLIMATE;
  if (climate.kind === "class") return { ...NO_CLIMATE, climate: climate.name, southern: climate.southern ?? false };
  const written = (typed.climate ?? {}) as Partial<ClimateTexts>;
  const list = (values: number[], show: (month: number) => string) => values.map(show).join(", ");
  return {
    ...NO_CLIMATE,
    climate: "normals",
    temperatures_c:
      written.temperatures_c ?? list(climate.temperatures_c as number[], (degrees) => temperature(degrees, units)),
    rain_mm: written.rain_mm ?? list(climate.rain_mm as number[], (amount) => rain(amount, units)),
  };
}

/** What is sent; the server reads the texts. */
export function climateEntry(texts: ClimateTexts) {
  if (!texts.climate) return null;
  if (texts.climate !== "normals") return { kind: "class", name: texts.climate, southern: texts.southern };
  return { kind: "normals", temperatures_c: texts.temperatures_c, rain_mm: texts.rain_mm };
}

interface Props {
  texts: ClimateTexts;
  units: UnitSystem;
  stored: Normals | null | undefined;
  change: (next: Partial<ClimateTexts>) => void;
  errorAt: (name: string) => string | undefined;
}

/** Normals as typed, or a generic climate; its year is drawn beneath. */
export function ClimateFields({ texts, units, stored, change, errorAt }: Props) {
  const climates = useQuery({
    queryKey: ["climates"],
    queryFn: () => api.get("/climates"),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const generic = climates.data?.find((climate) => climate.name === texts.climate);
  const normals = generic?.normals ?? (texts.climate === "normals" ? stored : undefined);
  return (
    <fieldset className="space-y-3">
      <SelectField
        label={t("climate")}
        value={texts.climate}
        onChange={(climate) => change({ climate })}
        options={[
          ["", t("notSpecified")],
          ["normals", t("myOwnMonthlyValues")],
          ...(climates.data ?? []).map((climate): [string, string] => [climate.name, climate.label]),
        ]}
        error={errorAt("climate")}
        hint={generic ? generic.source : t("setsHowFastChipsDecayAnd")}
      />
      {generic ? (
        <Tick checked={texts.southern} onChange={(southern) => change({ southern })}>
          {t("southOfTheEquator")}
        </Tick>
      ) : null}
      {texts.climate === "normals" ? (
        <>
          <TextField
            label={t("meanTemperatureByMonth")}
            unit={units === "us" ? "°F" : "°C"}
            rows={2}
            value={texts.temperatures_c}
            onChange={(temperatures_c) => change({ temperatures_c })}
            error={errorAt("climate.temperatures_c")}
            hint={t("twelveValuesJanuaryToDecemberIn", { unit: units === "us" ? "°F" : "°C" })}
          />
          <TextField
            label={t("rainByMonth")}
            rows={2}
            value={texts.rain_mm}
            onChange={(rain_mm) => change({ rain_mm })}
            error={errorAt("climate.rain_mm")}
            hint={t("twelveValuesInOrOneFor", { unit: units === "us" ? t("inches") : "mm" })}
          />
        </>
      ) : null}
      {normals ? <Year normals={normals} units={units} southern={generic ? texts.southern : false} /> : null}
    </fieldset>
  );
}

const [WIDE, HIGH, HEAD, FOOT, LEFT] = [560, 130, 22, 18, 44];
const MONTHS = Array.from({ length: 12 }, (_, month) => month);

const monthName = (month: number, style: "narrow" | "long") =>
  dateFormat({ month: style }).format(new Date(2025, month, 15));

/** Twelve months: rain as columns, temperature as a line. */
function Year({ normals, units, southern }: { normals: Normals; units: UnitSystem; southern: boolean }) {
  const turned = (values: readonly number[]) => (southern ? [...values.slice(6), ...values.slice(0, 6)] : [...values]);
  const degrees = turned(normals.temperatures_c as number[]);
  const wet = turned(normals.rain_mm as number[]);
  const x = scaleLinear([-0.5, 11.5], [LEFT, WIDE]);
  const y = scaleLinear([Math.min(0, ...degrees), Math.max(20, ...degrees)], [HIGH - FOOT, HEAD]);
  const wetness = scaleLinear([0, Math.max(120, ...wet)], [HIGH - FOOT, HEAD]);
  const wide = (x(1) - x(0)) * 0.6;
  const mean = degrees.reduce((sum, month) => sum + month, 0) / 12;
  const total = wet.reduce((sum, month) => sum + month, 0);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="w-full rounded-box bg-base-100"
        role="img"
        aria-label={t("climateOfTheYear")}
      >
        <Grid
          y={y}
          ticks={y.ticks(3)}
          left={LEFT}
          right={WIDE}
          words={(degree) => temperature(degree, units)}
          base="var(--color-base-content)"
        />
        {MONTHS.map((month) => (
          <rect
            key={month}
            x={x(month) - wide / 2}
            y={wetness(wet[month] ?? 0)}
            width={wide}
            height={wetness(0) - wetness(wet[month] ?? 0)}
            fill="var(--color-info)"
            opacity={0.35}
          />
        ))}
        <path d={linePath(degrees, x, y)} fill="none" stroke="var(--color-primary)" strokeWidth={2.5} />
        {MONTHS.map((month) => (
          <Words key={month} x={x(month)} y={HIGH - 4} size={13} anchor="middle">
            {monthName(month, "narrow")}
          </Words>
        ))}
      </svg>
      <DataTable
        caption={t("climateOfTheYear")}
        heads={[t("month"), t("meanTemperature"), t("rain")]}
        rows={MONTHS.map((month) => [
          monthName(month, "long"),
          temperature(degrees[month] ?? 0, units),
          rain(wet[month] ?? 0, units),
        ])}
      />
      <figcaption className="text-sm text-base-content/75">
        {t("meanTemperatureRainAYearLine", {
          temperature: temperature(mean, units),
          rain: rain(total, units),
        })}
      </figcaption>
    </figure>
  );
}
