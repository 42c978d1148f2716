import { useState } from "react";
import { Link, useParams } from "react-router";
import type { ChoiceOut, PlanSheet } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { inUnits, money, share, volume } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { Arrivals } from "./Arrivals";
import { Balance } from "./Balance";
import { BuyingForm } from "./BuyingForm";
import { Coverage } from "./Coverage";
import { usePlan } from "./supply";

/** What to order, from whom, when, for how much; what else would do; and which ground gets it. */
export function OrderTab() {
  const plan = usePlan();
  const may = useMay();
  if (plan.isPending) return <Loading what="what to order" />;
  if (plan.isError) return <Trouble error={plan.error} retry={() => plan.refetch()} />;
  return (
    <div className="mx-auto grid max-w-7xl grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-6 p-4 sm:p-6 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="space-y-6">
        <Choices plan={plan.data} />
        <Gaps plan={plan.data} />
        <Sources plan={plan.data} />
      </div>
      <div className="space-y-6">
        <Coverage plan={plan.data} edit={may.edit} />
        <BuyingForm key={plan.data.buying.version} buying={plan.data.buying} edit={may.edit} />
      </div>
    </div>
  );
}

function Choices({ plan }: { plan: PlanSheet }) {
  const units = useUnits();
  const { workspaceId = "" } = useParams();
  const [at, setAt] = useState(0);
  const { currency } = plan.buying;
  const shown = plan.choices[at] ?? plan.choices[0] ?? plan.nearest;
  const bought = shown?.purchases.filter((one) => one.kind !== "pile" && one.kind !== "coming") ?? [];
  if (plan.needs_m3 <= 0)
    return <h2 className="text-2xl">Nothing to order: all ground has what it wants.</h2>;
  return (
    <section className="space-y-4" data-testid="choice">
      {plan.binding ? (
        <div className="border-l-4 border-warning bg-base-100 p-3" data-testid="binding">
          <p className="text-lg font-semibold">{plan.binding}</p>
          <p>
            {shown
              ? `What can be had is below; it leaves ${volume(shown.short_m3, units)} uncovered.`
              : "Write down who could bring chips, with their terms; what is offered can be taken as it comes."}{" "}
            <Link className="link" to={`/w/${workspaceId}/suppliers`}>
              Suppliers
            </Link>
          </p>
        </div>
      ) : null}
      {shown ? (
        <>
          <div>
            <h2 className="text-sm text-base-content/75">
              {at > 0 ? "Instead, order" : plan.binding ? "Most that can be had" : "Order"}
            </h2>
            {bought.length === 0 ? (
              <p className="display text-3xl">
                {plan.binding
                  ? "Nothing that can be counted on."
                  : "Nothing: what lies here and is coming is enough."}
              </p>
            ) : (
              <ul className="mt-1 space-y-1.5">
                {bought.map((one) => (
                  <li key={one.key} className="flex flex-wrap items-baseline gap-x-3">
                    <span className="display text-2xl leading-tight text-primary sm:text-3xl">
                      {inUnits(one.amount, units)}
                    </span>
                    <span>
                      of {one.material_name.toLowerCase()} from <strong>{one.name}</strong>
                    </span>
                    <span className="ml-auto whitespace-nowrap">
                      {one.cost > 0 ? money(one.cost, currency) : "free"}
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </div>
          <dl className="flex flex-wrap gap-x-8 gap-y-1">
            <Item term="In all">
              <span data-testid="cost">{money(shown.cost, currency)}</span>
            </Item>
            <Item term="Left over">{volume(shown.left_over_m3, units)}</Item>
            {shown.short_m3 > 0 ? <Item term="Short">{volume(shown.short_m3, units)}</Item> : null}
            {shown.enough < 0.9995 && shown.short_m3 === 0 ? (
              <Item term="Sure to be enough">{share(Math.round(shown.enough * 100) / 100)}</Item>
            ) : null}
          </dl>
          <Balance plan={plan} />
          <div>
            <h3 className="text-sm text-base-content/75">At the earliest</h3>
            <Arrivals purchases={bought} />
          </div>
          <Alternatives choices={plan.choices} at={at} choose={setAt} currency={currency} />
        </>
      ) : null}
    </section>
  );
}

function Alternatives({
  choices,
  at,
  choose,
  currency,
}: {
  choices: ChoiceOut[];
  at: number;
  choose: (at: number) => void;
  currency: string;
}) {
  const units = useUnits();
  if (choices.length < 2) return null;
  return (
    <div data-testid="alternatives">
      <h3 className="mb-1 text-lg">What else would do</h3>
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {choices.map((one, index) => {
          const words = one.difference ? inUnits(one.difference, units, currency) : "The cheapest.";
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: choices are known by their rank
            <li key={index} className="flex items-center gap-3 py-1">
              <span className={`grow ${index === at ? "font-semibold" : ""}`}>{words}</span>
              <span className="whitespace-nowrap">{money(one.cost, currency)}</span>
              <button
                type="button"
                className="btn btn-sm press"
                aria-pressed={index === at}
                disabled={index === at}
                onClick={() => choose(index)}
              >
                {index === at ? "Shown" : "Show"}
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function Gaps({ plan }: { plan: PlanSheet }) {
  const units = useUnits();
  const more = plan.one_more;
  const list = (names: string[]) => names.join(", ");
  const stage: Record<string, string> = {
    fresh: "still fresh",
    ageing: "ageing",
    aged: "aged: fit for vegetable beds",
    decomposed: "decomposed: sift it for compost",
  };
  return (
    <>
      {more ? (
        <p className="border-l-4 border-secondary pl-3" data-testid="one-more">
          <strong>One load more</strong> from {more.source} ({volume(more.load_m3, units)}) buys:{" "}
          {more.whole.length > 0 ? `${list(more.whole)} whole` : ""}
          {more.whole.length > 0 && more.part ? ", " : ""}
          {more.part ? `${more.part} in part` : ""}
          {more.over_m3 > 0.05 ? `; ${volume(more.over_m3, units)} is then over` : ""}.
        </p>
      ) : null}
      {plan.surplus.map((one) => (
        <p key={one.material_name} className="border-l-4 border-base-300 pl-3" data-testid="surplus">
          <strong>{volume(one.volume_m3, units)}</strong> of {one.material_name.toLowerCase()} is over
          {one.place ? `: pile it at ${one.place}` : ""}. In a year it is {stage[one.in_a_year]}.
        </p>
      ))}
      {plan.uncovered.map((one) => (
        <p key={one.material_name} className="border-l-4 border-warning pl-3">
          Nobody brings <strong>{one.material_name.toLowerCase()}</strong>: {volume(one.volume_m3, units)} for{" "}
          {list(one.plots)}.
        </p>
      ))}
    </>
  );
}

function Sources({ plan }: { plan: PlanSheet }) {
  const unfit = plan.sources.filter((one) => one.unfit);
  if (unfit.length === 0) return null;
  return (
    <details>
      <summary className="press inline-flex cursor-pointer items-center text-primary">
        {unfit.length === 1 ? "1 supplier is" : `${unfit.length} suppliers are`} not reckoned with, and why
      </summary>
      <ul className="mt-1 space-y-1">
        {unfit.map((one) => (
          <li key={one.key}>
            <strong>{one.name}:</strong> {one.unfit}
          </li>
        ))}
      </ul>
    </details>
  );
}

function Item({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-sm text-base-content/75">{term}</dt>
      <dd className="text-xl font-semibold">{children}</dd>
    </div>
  );
}
