const NAMES = Array.from({ length: 12 }, (_, index) =>
  new Date(2025, index, 15).toLocaleDateString(undefined, { month: "long" }),
);

/** The months of a year, those meant filled; pressed, where they can be changed. */
export function Months({ months, change }: { months: number[]; change?: (months: number[]) => void }) {
  const year = NAMES.map((name, index) => ({ name, month: index + 1, on: months.includes(index + 1) }));
  const said = months.length === 12 ? "all year" : year.filter((one) => one.on).map((one) => one.name);
  if (!change) {
    return (
      <span className="flex items-center" role="img" aria-label={`Brings ${String(said)}`}>
        {year.map((one) => (
          <span
            key={one.month}
            className={`flex h-6 w-4 items-center justify-center text-xs ${one.on ? "bg-secondary text-secondary-content" : "bg-base-300 text-base-content/65"} ${one.month % 3 === 0 ? "mr-0.5" : ""}`}
          >
            {one.name.slice(0, 1)}
          </span>
        ))}
      </span>
    );
  }
  return (
    <span className="grid grid-cols-6 gap-1">
      {year.map((one) => (
        <button
          key={one.month}
          type="button"
          className={`btn press px-1 ${one.on ? "btn-secondary" : ""}`}
          aria-pressed={one.on}
          title={one.name}
          onClick={() =>
            change(
              one.on
                ? months.filter((month) => month !== one.month)
                : [...months, one.month].sort((a, b) => a - b),
            )
          }
        >
          {one.name.slice(0, 3)}
        </button>
      ))}
    </span>
  );
}
