import { t } from "@/texts/supply";
import { dateFormat } from "@/ui/intl";

const NAMES = Array.from({ length: 12 }, (_, index) => dateFormat({ month: "long" }).format(new Date(2025, index, 15)));

/** The months of a year, those meant filled; pressed, where they can be changed. */
export function Months({ months, change }: { months: number[]; change?: (months: number[]) => void }) {
  const year = NAMES.map((name, index) => ({ name, month: index + 1, on: months.includes(index + 1) }));
  const words = months.length === 12 ? t("allYear") : year.filter((month) => month.on).map((month) => month.name);
  if (!change) {
    return (
      <span className="flex items-center" role="img" aria-label={t("brings", { months: String(words) })}>
        {year.map((month) => (
          <span
            key={month.month}
            className={`flex h-6 w-4 items-center justify-center text-xs ${month.on ? "bg-secondary text-secondary-content" : "bg-base-300 text-base-content/65"} ${month.month % 3 === 0 ? "mr-0.5" : ""}`}
          >
            {month.name.slice(0, 1)}
          </span>
        ))}
      </span>
    );
  }
  return (
    <span className="grid grid-cols-6 gap-1">
      {year.map((entry) => (
        <button
          key={entry.month}
          type="button"
          className={`btn press px-1 ${entry.on ? "btn-secondary" : ""}`}
          aria-pressed={entry.on}
          title={entry.name}
          onClick={() =>
            change(
              entry.on
                ? months.filter((month) => month !== entry.month)
                : [...months, entry.month].sort((a, b) => a - b),
            )
          }
        >
          {entry.name.slice(0, 3)}
        </button>
      ))}
    </span>
  );
}
