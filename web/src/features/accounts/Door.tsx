import type { ReactNode } from "react";
import { Mark } from "@/app/Mark";

/** The page round signing in and up: what the tool answers on one side, the form on the other. */
export function Door({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="grid min-h-dvh lg:grid-cols-[1.1fr_1fr]">
      <section className="hidden flex-col justify-between bg-primary p-12 text-primary-content lg:flex">
        <p className="flex items-center gap-3">
          <Mark size={40} />
          <span className="display text-2xl">Ulmatic</span>
        </p>
        <div className="max-w-lg space-y-6">
          <p className="display text-5xl leading-[1.05]">How many loads before the truck comes?</p>
          <p className="text-xl">
            Measure the ground as you would say it. Ulmatic works out what settles, what to order in whole
            loads, and shows the working of every number.
          </p>
          <Strata />
        </div>
        <p className="text-sm opacity-90">
          Figures are aids to judgement. Local codes and licensed practice come first.
        </p>
      </section>
      <main className="flex items-center justify-center p-5 sm:p-10">
        <div className="w-full max-w-md space-y-5">
          <p className="flex items-center gap-2 lg:hidden">
            <Mark />
            <span className="display text-xl">Ulmatic</span>
          </p>
          <h1 className="text-3xl">{title}</h1>
          {children}
        </div>
      </main>
    </div>
  );
}

function Strata() {
  const rows = [
    { y: 0, height: 34, fill: "var(--chip-2)", text: "fresh chips, loose" },
    { y: 38, height: 26, fill: "var(--chip-3)", text: "settled by a fifth to a quarter" },
    { y: 68, height: 30, fill: "var(--soil)", text: "soil" },
  ];
  return (
    <svg
      viewBox="0 0 420 100"
      className="w-full"
      role="img"
      aria-label="Fresh chips settle by a fifth to a quarter on the soil"
    >
      {rows.map((row) => (
        <g key={row.y}>
          <rect x="0" y={row.y} width="420" height={row.height} rx="3" fill={row.fill} />
          <text x="14" y={row.y + row.height / 2 + 5} fontSize="15" fontWeight="600" fill="#1d1407">
            {row.text}
          </text>
        </g>
      ))}
    </svg>
  );
}
