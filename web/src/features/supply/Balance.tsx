import type { PlanSheet } from "@/api/schema.gen";
import { volume } from "@/ui/format";
import { useUnits } from "@/ui/units";

/** What is needed against what lies here, is coming and would be ordered: two bars on one scale. */
export function Balance({ plan }: { plan: PlanSheet }) {
  const units = useUnits();
  const parts = [
    { key: "here", words: "lies here", amount: plan.there_m3, look: "bg-secondary" },
    { key: "coming", words: "is coming", amount: plan.coming_m3, look: "bg-secondary/55" },
    { key: "order", words: "to order", amount: plan.to_order_m3, look: "bg-primary" },
  ].filter((one) => one.amount > 0.005);
  const scale = Math.max(plan.needs_m3, ...[parts.reduce((sum, one) => sum + one.amount, 0)], 0.001);
  const width = (amount: number) => `${(100 * amount) / scale}%`;
  return (
    <figure className="space-y-1" data-testid="balance" aria-label="Needed and covered">
      <div className="h-4 bg-base-content/80" style={{ width: width(plan.needs_m3) }} />
      <div className="flex h-4">
        {parts.map((one) => (
          <div
            key={one.key}
            className={`${one.look} border-r-2 border-base-100`}
            style={{ width: width(one.amount) }}
          />
        ))}
      </div>
      <figcaption className="flex flex-wrap gap-x-5 gap-y-0.5 text-sm">
        <span className="flex items-center gap-1.5">
          <span className="size-3 bg-base-content/80" /> needed{" "}
          <strong>{volume(plan.needs_m3, units)}</strong>
        </span>
        {parts.map((one) => (
          <span key={one.key} className="flex items-center gap-1.5">
            <span className={`size-3 ${one.look}`} /> {one.words} <strong>{volume(one.amount, units)}</strong>
          </span>
        ))}
      </figcaption>
    </figure>
  );
}
