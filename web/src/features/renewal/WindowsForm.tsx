import { useState } from "react";
import { Problem } from "@/api/client";
import type { SeasonsSheet } from "@/api/schema.gen";
import { Months } from "@/features/supply/Months";
import { SelectField, TextField } from "@/ui/Field";
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
  const { overridden: own, seasons: derived } = seasons;
  const [last, setLast] = useState(dayText(derived.last_frost));
  const [first, setFirst] = useState(dayText(derived.first_frost));
  const [zone, setZone] = useState(derived.zone);
  const [months, setMonths] = useState<number[]>(seasons.open_months);
  const [waits, setWaits] = useState(own.waits == null ? "" : String(own.waits));
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
        // What was not touched stays derived.
        const said = <T,>(value: T, before: T, own: unknown) =>
          own == null && value === before ? null : value;
        override.mutate({
          last_frost: said(a, derived.last_frost, own.last_frost),
          first_frost: said(b, derived.first_frost, own.first_frost),
          zone: said(zone.trim(), derived.zone, own.zone) || null,
          open_months: own.open_months || months.join() !== seasons.open_months.join() ? months : null,
          waits: waits === "" ? null : waits === "true",
        });
      }}
    >
      <fieldset disabled={!edit} className="space-y-3">
        <h2 className="text-xl">Seasons of this place</h2>
        <p className="text-sm text-base-content/75">
          {overridden ? "As you said. " : ""}
          {derived.source.text} Coldest night of a usual year about {temperature(derived.coldest_c, units)}.
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
        <SelectField
          label="When chips are short"
          value={waits}
          onChange={setWaits}
          options={{
            "": own.waits == null && seasons.waits ? "As proposed: wait, as nobody sells any" : "As proposed",
            true: "Wait for what can be counted on to come",
            false: "Buy what is missing, and lay when it is due",
          }}
        />
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
