import { useState } from "react";
import { Problem } from "@/api/client";
import type { SeasonsSheet } from "@/api/schema.gen";
import { Months } from "@/features/supply/Months";
import { TextField } from "@/ui/Field";
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
  const found = /^(\d{1,2})-(\d{1,2})$/.exec(text.trim());
  if (!found) return undefined;
  const at = Date.UTC(YEAR, Number(found[1]) - 1, Number(found[2]));
  const day = Math.round((at - Date.UTC(YEAR, 0, 1)) / 86_400_000) + 1;
  return Number.isFinite(day) && day >= 1 && day <= 366 ? day : undefined;
}

/** Frost, hardiness and the months for laying: derived, and what is said instead. */
export function WindowsForm({ seasons, edit }: { seasons: SeasonsSheet; edit: boolean }) {
  const units = useUnits();
  const { override } = useSeasons();
  const own = seasons.overridden;
  const [last, setLast] = useState(dayText(seasons.seasons.last_frost));
  const [first, setFirst] = useState(dayText(seasons.seasons.first_frost));
  const [zone, setZone] = useState(seasons.seasons.zone);
  const [months, setMonths] = useState<number[]>(seasons.open_months);
  const problem = override.error instanceof Problem ? override.error : null;
  const bad = (text: string) => (dayOf(text) === undefined ? "Write month and day like 04-15." : undefined);
  const overridden = Object.values(own).some((one) => one !== null && one !== undefined);
  return (
    <form
      noValidate
      data-testid="windows"
      onSubmit={(event) => {
        event.preventDefault();
        const [a, b] = [dayOf(last), dayOf(first)];
        if (a === undefined || b === undefined) return;
        override.mutate({ last_frost: a, first_frost: b, zone: zone.trim() || null, open_months: months });
      }}
    >
      <fieldset disabled={!edit} className="space-y-3">
        <h2 className="text-xl">Seasons of this place</h2>
        <p className="text-sm text-base-content/75">
          {overridden ? "As you said. " : ""}
          {seasons.seasons.source.text} Coldest night of a usual year about{" "}
          {temperature(seasons.seasons.coldest_c, units)}.
        </p>
        <div className="grid grid-cols-3 gap-3">
          <TextField label="Last frost" value={last} onChange={setLast} error={bad(last)} hint="month-day" />
          <TextField
            label="First frost"
            value={first}
            onChange={setFirst}
            error={bad(first)}
            hint="month-day"
          />
          <TextField
            label="Hardiness zone"
            value={zone}
            onChange={setZone}
            error={problem?.byField.zone ? "Such as 8b." : undefined}
          />
        </div>
        <fieldset>
          <legend className="mb-1 text-sm font-semibold">Months for laying</legend>
          <Months months={months} {...(edit ? { change: setMonths } : {})} />
        </fieldset>
        {edit ? (
          <div className="flex gap-2">
            <button
              type="submit"
              className="btn btn-primary press"
              disabled={override.isPending || months.length === 0}
            >
              Save
            </button>
            {overridden ? (
              <button type="button" className="btn press" onClick={() => override.mutate({})}>
                As derived
              </button>
            ) : null}
          </div>
        ) : null}
      </fieldset>
    </form>
  );
}
