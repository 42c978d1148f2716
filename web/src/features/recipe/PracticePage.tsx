import { useParams } from "react-router";
import { useMay, useSession } from "@/features/accounts/session";
import { t } from "@/texts/recipe";
import { Loading, Trouble } from "@/ui/states";
import { Units } from "@/ui/units";
import { PracticeChoice } from "./PracticeChoice";
import { useWorkspacePractice } from "./practice";

/** The schools a workspace follows unless a site or plot says otherwise. */
export function PracticePage() {
  const { workspaceId = "" } = useParams();
  const may = useMay();
  const { data: session } = useSession();
  const { choices, change } = useWorkspacePractice(workspaceId);
  if (choices.isPending) return <Loading what={t("yourPractice")} />;
  if (choices.isError) return <Trouble error={choices.error} retry={() => choices.refetch()} />;
  return (
    <Units value={session?.user?.units ?? "metric"}>
      <div className="mx-auto max-w-5xl p-4 sm:p-6">
        <h1 className="text-3xl">{t("yourPracticeHeading")}</h1>
        <p className="mt-2 max-w-prose">{t("practitionersDisagreeEachSchoolHasIts")}</p>
        {change.isError ? <Trouble error={change.error} /> : null}
        <PracticeChoice
          chosen={choices.data}
          wider={[]}
          from={t("theDefault")}
          change={(next) => change.mutate(next)}
          disabled={!may.edit}
        />
      </div>
    </Units>
  );
}
