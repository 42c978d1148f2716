import { Plus } from "lucide-react";
import { Link } from "react-router";
import type { LandmarkOut } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { length } from "@/ui/format";
import { aboutDistance } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { KINDS, type LandmarkKind } from "./landmarks";

interface Props {
  landmarks: LandmarkOut[];
  chosen: string | undefined;
  back: string;
  edit: boolean;
}

/** How chips get to the plots: tips, pile places and ways. */
export function LandmarkList({ landmarks, chosen, back, edit }: Props) {
  const units = useUnits();
  const size = ({ landmark }: LandmarkOut) =>
    landmark.kind === "way"
      ? t("wide", { width: length(landmark.width_m, units) })
      : `${aboutDistance(landmark.length_m, units)} × ${length(landmark.width_m, units)}`;
  return (
    <section aria-label={t("tipsPilePlacesAndWays")} className="border-t-4 border-base-300">
      <h2 className="px-3 pt-2 text-base">{t("access")}</h2>
      {landmarks.length === 0 ? (
        <p className="px-3 pb-1 text-sm text-base-content/75">{t("addATipAndTheWays")}</p>
      ) : null}
      <ul>
        {landmarks.map((landmark) => (
          <li key={landmark.id} className="border-b border-base-300">
            <Link
              to={`${back}/access/${landmark.id}`}
              aria-current={landmark.id === chosen ? "true" : undefined}
              className={`press flex items-center gap-2 px-3 py-1.5 hover:bg-base-100 ${landmark.id === chosen ? "border-l-4 border-l-primary bg-base-100" : ""}`}
            >
              <span className="min-w-0 grow truncate font-semibold">{landmark.name}</span>
              <span className="text-right text-sm text-base-content/70">
                {KINDS[landmark.landmark.kind ?? "tip"].label.toLowerCase()}, {size(landmark)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {edit ? (
        <div className="flex flex-wrap gap-1 p-2">
          {(Object.keys(KINDS) as LandmarkKind[]).map((kind) => (
            <Link key={kind} to={`${back}/access/${kind}`} className="btn btn-sm press">
              <Plus size={15} /> {KINDS[kind].add}
            </Link>
          ))}
        </div>
      ) : null}
    </section>
  );
}
