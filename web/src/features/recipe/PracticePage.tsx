import { useParams } from "react-router";
import { useMay, useSession } from "@/features/accounts/session";
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
  if (choices.isPending) return <Loading what="your practice" />;
  if (choices.isError) return <Trouble error={choices.error} retry={() => choices.refetch()} />;
  return (
    <Units value={session?.user?.units ?? "metric"}>
      <div className="mx-auto max-w-5xl p-4 sm:p-6">
        <h1 className="text-3xl">Your practice</h1>
        <p className="mt-2 max-w-prose">
          Practitioners disagree, and each school has its reasons. Choose yours: recipes and advice follow it.
          A site or a single plot can choose otherwise.
        </p>
        {change.isError ? <Trouble error={change.error} /> : null}
        <PracticeChoice
          chosen={choices.data}
          wider={[]}
          from="what is shipped"
          change={(next) => change.mutate(next)}
          disabled={!may.edit}
        />
      </div>
    </Units>
  );
}
