import { ChevronDown, ChevronUp, Minus, Plus } from "lucide-react";
import { useState } from "react";
import type { Now } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { useChoice } from "@/features/supply/supply";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/site";
import { Button } from "@/ui/Button";
import { day, valueText } from "@/ui/format";
import { about, aboutRest, SPECK_M3 } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { costOf, linesWith, loadsOf, mainLine } from "./season";
import { useWorkings } from "./workings";

/** The season whose account is running: the same on every page of a site. */
export function SeasonStrip({ now, typing, assumed }: { now: Now; typing: boolean; assumed: boolean }) {
  const units = useUnits();
  const [open, setOpen] = useState(false);
  const nothing = now.needed_m3 <= SPECK_M3;
  return (
    <section
      aria-label={t("theSeason")}
      data-testid="strip"
      className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-base-300 bg-base-100 px-3 py-1.5 sm:px-4"
    >
      <div className="min-w-0 leading-tight">
        <p className="display text-lg sm:text-xl" data-testid="season">
          {now.season}
        </p>
        <p className={`text-sm text-base-content/75 ${open ? "" : "hidden sm:block"}`}>
          {t("to", { from: day(now.from), until: day(now.until) })}
          {assumed ? t("climateAssumed") : ""}
        </p>
      </div>
      {nothing ? (
        <p className="grow" data-testid="nothing-due">
          {typing ? t("withYourEntriesNothingIsDue") : t("nothingIsDueInThisSeason")}
          {now.next ? (
            <span className="block text-sm text-base-content/75">
              {t("needs", {
                season: now.next.season,
                volume: about(now.next.needed_m3, units),
              })}
            </span>
          ) : null}
        </p>
      ) : (
        <>
          <p className="ml-auto text-right leading-tight sm:hidden">
            <span className="display text-xl text-primary">{loadsOf(now, units)}</span>
            <span className="block text-sm text-base-content/75">{costOf(now)}</span>
          </p>
          <Button
            ghost
            square
            className="sm:hidden"
            aria-expanded={open}
            aria-label={open ? t("showLessOfTheSeason") : t("showMoreOfTheSeason")}
            onClick={() => setOpen(!open)}
          >
            {open ? <ChevronUp size={20} /> : <ChevronDown size={20} />}
          </Button>
          <Numbers now={now} typing={typing} open={open} />
        </>
      )}
    </section>
  );
}

function Numbers({ now, typing, open }: { now: Now; typing: boolean; open: boolean }) {
  const units = useUnits();
  const may = useMay();
  const { sheet } = useSite();
  const { choose } = useChoice();
  const ask = useWorkings();
  const line = mainLine(now.order);
  const version = sheet.data?.site.version ?? 0;
  const change = (by: number) =>
    line && choose.mutate({ season: now.key, lines: linesWith(now, line.key, by, units), version });
  const editable = may.edit && !typing;
  return (
    <>
      <dl
        className={`grow grid-cols-3 items-end gap-x-4 gap-y-1 sm:flex sm:flex-wrap sm:gap-x-6 ${open ? "grid" : "hidden"}`}
      >
        <Item term={typing ? t("neededWithYourEntries") : t("needed")} label="need">
          <Ask label={t("neededWithin")} press={() => ask("needed", now.key)}>
            {about(now.needed_m3, units)}
          </Ask>
        </Item>
        <Item term={t("onHand")} label="on-hand">
          {about(now.on_hand_m3, units)}
        </Item>
        <Item term={t("coming")} label="coming">
          {about(now.coming_m3, units)}
        </Item>
        <div className="col-span-2 leading-tight">
          <dt className="text-sm text-base-content/75">
            {t("toOrderHeading")} <span data-testid="to-order">{about(now.to_order_m3, units)}</span>
          </dt>
          <dd className="flex items-center gap-1.5" data-testid="loads">
            <Ask label={t("toOrder")} press={() => ask("to_order", now.key)}>
              <span className="display text-2xl leading-none text-primary sm:text-3xl">{loadsOf(now, units)}</span>
            </Ask>
            {editable && line ? (
              <>
                <LoadStep
                  label={line.exact ? t("less") : t("oneLoadFewer")}
                  press={() => change(-1)}
                  icon={<Minus size={16} />}
                />
                <LoadStep
                  label={line.exact ? t("more") : t("oneLoadMore")}
                  press={() => change(1)}
                  icon={<Plus size={16} />}
                />
              </>
            ) : null}
          </dd>
        </div>
        {now.short_m3 > SPECK_M3 ? (
          <Item term={t("short")} label="short">
            <span className="text-error">{about(now.short_m3, units)}</span>
          </Item>
        ) : (
          <Item term={t("leftOver")} label="left-over">
            {aboutRest(now.left_over_m3, units)}
          </Item>
        )}
        <Item term={t("work")} label="hours">
          <Ask label={t("hours")} press={() => ask("hours", now.key)}>
            {valueText(now.hours, "h", units)}
          </Ask>
        </Item>
        <Item term={t("cost")} label="cost">
          {costOf(now)}
        </Item>
      </dl>
      {editable && now.decided ? (
        <Button small className="print:hidden" onClick={() => choose.mutate({ season: now.key, lines: null, version })}>
          {t("useTheProposal")}
        </Button>
      ) : null}
    </>
  );
}

function LoadStep({ label, press, icon }: { label: string; press: () => void; icon: React.ReactNode }) {
  return (
    <Button square small className="min-w-11 print:hidden" aria-label={label} onClick={press}>
      {icon}
    </Button>
  );
}

/** A number of the season; pressed, it says how it is worked out. */
function Ask({ label, press, children }: { label: string; press: () => void; children: React.ReactNode }) {
  return (
    <button type="button" className="asks text-left" title={t("showTheCalculationOf", { label })} onClick={press}>
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
