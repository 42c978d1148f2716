import type { PurchaseOut } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { now } from "@/ui/clock";
import { DataTable } from "@/ui/DataTable";
import { dateFormat } from "@/ui/intl";
import { Words } from "@/ui/picture";
import { Scroll } from "@/ui/Scroll";

const [STEP, HIGH] = [56, 78];

/** When loads come, month by month from now: a small pile for each. */
export function Arrivals({ purchases }: { purchases: PurchaseOut[] }) {
  const running = now().getMonth();
  const months = Array.from({ length: 12 }, (_, ahead) => {
    const month = (running + ahead) % 12;
    const name = dateFormat({ month: "short" }).format(new Date(2025, month, 15));
    const loads = purchases
      .filter((purchase) => purchase.kind !== "pile" && purchase.kind !== "coming" && purchase.kind !== "bags")
      .map((purchase) => purchase.by_month.find(([at]) => at === month)?.[1] ?? 0)
      .reduce((sum, purchase) => sum + purchase, 0);
    return { month, name, loads };
  });
  if (months.every((month) => month.loads === 0)) return null;
  const words = months
    .filter((month) => month.loads > 0)
    .map((month) => t("in", { loads: month.loads, name: month.name }));
  return (
    <Scroll label={t("delivery")}>
      <svg
        viewBox={`0 0 ${12 * STEP} ${HIGH}`}
        className="w-full min-w-[34rem] max-w-2xl"
        role="img"
        aria-label={t("earliestDelivery", { months: words.join(", ") })}
      >
        <line x1={0} x2={12 * STEP} y1={HIGH - 22} y2={HIGH - 22} stroke="var(--soil-line)" strokeWidth={2} />
        {months.map((month, index) => (
          <g key={month.month} transform={`translate(${index * STEP} 0)`}>
            {Array.from({ length: Math.min(month.loads, 3) }, (_, at) => (
              <path
                // biome-ignore lint/suspicious/noArrayIndexKey: alike piles beside each other
                key={at}
                d={`M${6 + at * 11} ${HIGH - 23} l13 -17 q3 -3 6 0 l13 17 z`}
                fill="var(--chip-2)"
                stroke="var(--soil-line)"
                strokeWidth={1.2}
              />
            ))}
            {month.loads > 0 ? (
              <Words x={STEP / 2} y={HIGH - 48} size={15} fontWeight={700} anchor="middle">
                {month.loads}
              </Words>
            ) : null}
            <Words x={STEP / 2} y={HIGH - 5} size={14} anchor="middle" opacity={month.loads > 0 ? 1 : 0.65}>
              {month.name}
            </Words>
          </g>
        ))}
      </svg>
      <DataTable
        caption={t("delivery")}
        heads={[t("monthOfDelivery"), t("loads")]}
        rows={months.map((month) => [month.name, String(month.loads)])}
      />
    </Scroll>
  );
}
