import { Minus, Plus } from "lucide-react";
import type { Now } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useChoice } from "@/features/supply/supply";
import { useSite } from "@/features/survey/site";
import { about, count, day, other, shown } from "@/ui/format";
import { useUnits } from "@/ui/units";
import { costOf, linesWith, mainLine } from "./season";
import { useWorkings } from "./workings";

const SPECK_M3 = 0.005;

/** The season whose account is running: the same on every page of a site. */
export function SeasonStrip({ now, typing, assumed }: { now: Now; typing: boolean; assumed: boolean }) {
  const units = useUnits();
  const may = useMay();
  const { sheet } = useSite();
  const { choose } = useChoice();
  const ask = useWorkings();
  const line = mainLine(now.order);
  const version = sheet.data?.site.version ?? 0;
  const change = (by: number) =>
    line && choose.mutate({ season: now.key, lines: linesWith(now, line.key, by, units), version });
  const editable = may.edit && !typing && now.needed_m3 > SPECK_M3;
  const nothing = now.needed_m3 <= SPECK_M3;
  const counted = now.order.some((line) => line.kind !== "bags");
  return (
    <section
      aria-label="The season"
      data-testid="strip"
      className="flex flex-wrap items-center gap-x-7 gap-y-1 border-b border-base-300 bg-base-100 px-4 py-1.5"
    >
      <div className="leading-tight">
        <p className="display text-xl" data-testid="season">
          {now.season}
        </p>
        <p className="text-sm text-base-content/75">
          {day(now.from)} to {day(now.until)}
          {assumed ? ", climate assumed" : ""}
        </p>
      </div>
      {nothing ? (
        <p className="grow" data-testid="nothing-due">
          {typing ? "With what you type nothing" : "Nothing"} is due in this season.
          {now.next ? (
            <span className="block text-sm text-base-content/75">
              {now.next.season} needs {about(now.next.needed_m3, units)}.
            </span>
          ) : null}
        </p>
      ) : (
        <>
          <dl className="grid grow grid-cols-3 items-end gap-x-4 gap-y-1 sm:flex sm:flex-wrap sm:gap-x-7">
            <Item term={typing ? "Needed, with what you type" : "Needed"} label="need">
              <Ask label="needed" press={() => ask("needed", now.key)}>
                {about(now.needed_m3, units)}
              </Ask>
              <span className="ml-2 hidden text-sm font-normal text-base-content/75 xl:inline">
                {about(now.needed_m3, other(units))}
              </span>
            </Item>
            <Item term="On hand" label="on-hand">
              {about(now.on_hand_m3, units)}
            </Item>
            <Item term="Coming" label="coming">
              {about(now.coming_m3, units)}
            </Item>
            <div className="col-span-2 leading-tight">
              <dt className="text-sm text-base-content/75">
                To order, <span data-testid="to-order">{about(now.to_order_m3, units)}</span>
              </dt>
              <dd className="flex items-center gap-1.5" data-testid="loads">
                <Ask label="to order" press={() => ask("to_order", now.key)}>
                  <span className="display text-2xl leading-none text-primary sm:text-3xl">
                    {now.order.length === 0
                      ? "nothing"
                      : counted
                        ? count(now.loads, "load", "loads")
                        : about(now.ordered_m3, units)}
                  </span>
                </Ask>
                {editable && line ? (
                  <>
                    <Step
                      label={line.exact ? "Less" : "One load fewer"}
                      press={() => change(-1)}
                      icon={<Minus size={16} />}
                    />
                    <Step
                      label={line.exact ? "More" : "One load more"}
                      press={() => change(1)}
                      icon={<Plus size={16} />}
                    />
                  </>
                ) : null}
              </dd>
            </div>
            {now.short_m3 > SPECK_M3 ? (
              <Item term="Short" label="short">
                <span className="text-error">{about(now.short_m3, units)}</span>
              </Item>
            ) : (
              <Item term="Left over" label="left-over">
                {about(now.left_over_m3, units)}
              </Item>
            )}
            <Item term="Work" label="hours">
              <Ask label="hours" press={() => ask("hours", now.key)}>
                {shown(now.hours, "h", units)}
              </Ask>
            </Item>
            <Item term="Cost" label="cost">
              {costOf(now)}
            </Item>
          </dl>
          {editable && now.decided ? (
            <button
              type="button"
              className="btn btn-sm press print:hidden"
              onClick={() => choose.mutate({ season: now.key, lines: null, version })}
            >
              As proposed
            </button>
          ) : null}
        </>
      )}
    </section>
  );
}

function Step({ label, press, icon }: { label: string; press: () => void; icon: React.ReactNode }) {
  return (
    <button
      type="button"
      className="btn btn-square btn-sm press min-w-11 print:hidden"
      aria-label={label}
      onClick={press}
    >
      {icon}
    </button>
  );
}

/** A number of the season; pressed, it says how it is worked out. */
function Ask({ label, press, children }: { label: string; press: () => void; children: React.ReactNode }) {
  return (
    <button type="button" className="asks text-left" title={`How “${label}” is worked out`} onClick={press}>
      {children}
    </button>
  );
}

function Item({ term, label, children }: { term: string; label: string; children: React.ReactNode }) {
  return (
    <div className="min-w-0 leading-tight">
      <dt className="text-sm text-base-content/75">{term}</dt>
      <dd className="text-lg font-semibold whitespace-nowrap" data-testid={label}>
        {children}
      </dd>
    </div>
  );
}
