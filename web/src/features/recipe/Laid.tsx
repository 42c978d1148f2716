import { useParams } from "react-router";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { known, PracticeChoice } from "./PracticeChoice";
import { useWorkspacePractice } from "./practice";

/** What a site lays, as it stands in its form. */
export interface LaidTexts {
  material: string;
  fire_district: boolean;
  practice: Record<string, string>;
}

export const NO_RECIPE: LaidTexts = { material: "", fire_district: false, practice: {} };

/** What is laid here where a plot does not say otherwise. */
export function Laid({
  entry,
  change,
  errors,
}: {
  entry: LaidTexts;
  change: (next: Partial<LaidTexts>) => void;
  errors: Record<string, string>;
}) {
  const { workspaceId = "" } = useParams();
  const workspace = useWorkspacePractice(workspaceId);
  return (
    <>
      <MaterialSelect
        workspaceId={workspaceId}
        label="Usual material"
        value={entry.material}
        change={(material) => change({ material })}
        empty="Arborist chips, leafy (as shipped)"
        error={errors.material}
        hint="What the loads bring; a plot can have another."
      />
      <label className="press flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={entry.fire_district}
          onChange={(event) => change({ fire_district: event.target.checked })}
        />
        In a fire district, where local rules keep mulch away from buildings
      </label>
      <details>
        <summary className="press flex cursor-pointer items-center justify-between gap-2 font-semibold">
          Practice on this site
          <span className="text-sm font-normal text-base-content/75">
            {Object.keys(entry.practice).length
              ? `${Object.keys(entry.practice).length} chosen here`
              : "as your practice"}
          </span>
        </summary>
        <PracticeChoice
          chosen={entry.practice}
          wider={[workspace.choices.data ?? {}]}
          from="your practice"
          change={(practice) => change({ practice: known(practice) })}
        />
      </details>
    </>
  );
}
