import type { SeasonFigures } from "@/api/schema.gen";
import { t } from "@/texts/supply";
import { about, SPECK_M3 } from "@/ui/precision";
import { useUnits } from "@/ui/units";

/** What is needed against what lies here, is coming and is ordered: two bars on one scale. */
export function Balance({ season }: { season: SeasonFigures }) {
  const units = useUnits();
  const parts = [
    { key: "here", words: t("onHand"), amount: season.on_hand_m3, look: "bg-secondary" },
    { key: "coming", words: "coming", amount: season.coming_m3, look: "bg-secondary/55" },
    { key: "order", words: "ordered", amount: season.ordered_m3, look: "bg-primary" },
  ].filter((part) => part.amount > SPECK_M3);
  const scale = Math.max(
    season.needed_m3,
    parts.reduce((sum, part) => sum + part.amount, 0),
    0.001,
  );
  const width = (amount: number) => `${(100 * amount) / scale}%`;
  return (
    <figure className="space-y-1" data-testid="balance" aria-label={t("neededAndCovered")}>
      <div className="h-4 bg-base-content/80" style={{ width: width(season.needed_m3) }} />
      <div className="flex h-4">
        {parts.map((part) => (
          <div
            key={part.key}
            className={`${part.look} border-r-2 border-base-100`}
            style={{ width: width(part.amount) }}
          />
        ))}
      </div>
      <figcaption className="flex flex-wrap gap-x-5 gap-y-0.5 text-sm">
        <span className="flex items-center gap-1.5">
          <span className="size-3 bg-base-content/80" /> {t("needed")} <strong>{about(season.needed_m3, units)}</strong>
        </span>
        {parts.map((part) => (
          <span key={part.key} className="flex items-center gap-1.5">
            <span className={`size-3 ${part.look}`} /> {part.words} <strong>{about(part.amount, units)}</strong>
          </span>
        ))}
      </figcaption>
    </figure>
  );
}
