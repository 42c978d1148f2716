import { useParams } from "react-router";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { t } from "@/texts/recipe";
import { Fold } from "@/ui/Fold";
import { Tick } from "@/ui/Tick";
import { known, PracticeChoice } from "./PracticeChoice";
import { useWorkspacePractice } from "./practice";

/** What a site lays, as it stands in its form. */
export interface LaidTexts {
  material: string;
  fire_district: boolean;
  practice: Record<string, string>;
}

interface Props {
  entry: LaidTexts;
  change: (next: Partial<LaidTexts>) => void;
  errorAt: (name: string) => string | undefined;
}

/** What is laid here where a plot does not say otherwise. */
export function Laid({ entry, change, errorAt }: Props) {
  const { workspaceId = "" } = useParams();
  const workspace = useWorkspacePractice(workspaceId);
  const chosenHere = Object.keys(entry.practice).length;
  return (
    <>
      <MaterialSelect
        workspaceId={workspaceId}
        label={t("usualMaterial")}
        value={entry.material}
        change={(material) => change({ material })}
        empty={t("arboristChipsLeafyDefault")}
        error={errorAt("material")}
        hint={t("theUsualMaterialOfYourLoads")}
      />
      <Tick checked={entry.fire_district} onChange={(fire_district) => change({ fire_district })}>
        {t("inAFireDistrictLocalRules")}
      </Tick>
      <Fold
        title={t("practiceOnThisSite")}
        note={chosenHere ? t("chosenHereWithNumber", { number: chosenHere }) : t("asYourPractice")}
      >
        <PracticeChoice
          chosen={entry.practice}
          wider={[workspace.choices.data ?? {}]}
          from={t("yourPractice")}
          change={(practice) => change({ practice: known(practice) })}
        />
      </Fold>
    </>
  );
}
