import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api } from "@/api/client";
import type { Findings } from "@/api/schema.gen";
import { useMay, useWorkspaceUnits } from "@/features/accounts/session";
import { STAGES } from "@/features/recipe/choices";
import { t } from "@/texts/materials";
import { Back } from "@/ui/Back";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { inUnits } from "@/ui/precision";
import { Sentence } from "@/ui/Sentence";
import { Loading, Trouble } from "@/ui/states";
import { rangeOf } from "@/ui/working";
import { useOwnMaterials } from "./materials";
import { Swatch } from "./Swatch";

/** A nameless load on the drive: six questions, and what it most likely is. */
export function GuessLoad() {
  const { workspaceId = "" } = useParams();
  const units = useWorkspaceUnits();
  const may = useMay();
  const navigate = useNavigate();
  const { add } = useOwnMaterials(workspaceId);
  const [findings, setFound] = useState<Record<string, string>>({});
  const [id] = useState(() => crypto.randomUUID());
  const questions = useQuery({
    queryKey: ["load-questions"],
    queryFn: () => api.get("/load-questions"),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const guess = useQuery({
    queryKey: ["load-guess", findings],
    queryFn: () => api.post("/load-guess", { body: findings as Findings }),
    placeholderData: keepPreviousData,
  });
  const form = useFields({ start: { name: "" }, problem: add.error });
  if (questions.isPending) return <Loading what={t("theQuestions")} />;
  if (questions.isError) return <Trouble error={questions.error} retry={() => questions.refetch()} />;
  const finding = guess.data;
  const { name } = form.values;
  const givenName = name.trim() || finding?.material.name || "";
  return (
    <div className="mx-auto grid max-w-5xl gap-6 p-4 sm:p-6 lg:grid-cols-[1fr_21rem]">
      <div>
        <Back to={`/w/${workspaceId}/materials`}>{t("materials")}</Back>
        <h1 className="text-3xl">{t("identifyTheMaterial")}</h1>
        <p className="mt-1 max-w-prose text-base-content/75">{t("goToThePileWithA")}</p>
        {questions.data.map(({ field, asks, answers }) => (
          <fieldset key={field} className="mt-4">
            <legend className="mb-1 text-lg font-bold">{asks}</legend>
            <div className="flex flex-wrap gap-2">
              {Object.entries(answers).map(([value, words]) => (
                <label
                  key={value}
                  className={`press flex cursor-pointer items-center gap-2 border-2 bg-base-100 px-3 ${findings[field] === value ? "border-primary" : "border-base-300"}`}
                >
                  <input
                    type="radio"
                    className="radio radio-sm"
                    name={field}
                    checked={findings[field] === value}
                    onChange={() => setFound({ ...findings, [field]: value })}
                  />
                  {words}
                </label>
              ))}
              {findings[field] ? (
                <Button
                  ghost
                  onClick={() => {
                    const { [field]: _, ...rest } = findings;
                    setFound(rest);
                  }}
                >
                  {t("notSure")}
                </Button>
              ) : null}
            </div>
          </fieldset>
        ))}
      </div>
      <section aria-label={t("mostLikely")} className="lg:sticky lg:top-4 lg:self-start" data-testid="guess">
        {finding ? (
          <div className="space-y-3 border-t-4 border-primary bg-base-100 p-4">
            <Swatch material={finding.material} large />
            <h2 className="text-2xl">{finding.likely[0]}</h2>
            <p>
              {STAGES[finding.stage]}
              {finding.likely.length > 1
                ? t("itMayAlsoBe", { likely: finding.likely.slice(1).join(", ").toLowerCase() })
                : ""}
              .
            </p>
            <ul className="list-disc pl-5 text-sm">
              {finding.why.map((reason) => (
                <li key={reason}>{reason}</li>
              ))}
            </ul>
            {finding.cautions.map((caution) => (
              <p key={caution} className="border-l-4 border-warning pl-3 text-sm font-semibold">
                {inUnits(caution, units)}
              </p>
            ))}
            <dl className="grid grid-cols-2 gap-2 text-sm">
              {(["cn", "density", "rate", "settling"] as const).map((field) => (
                <div key={field}>
                  <dt className="text-base-content/75">{finding.material[field].name}</dt>
                  <dd className="font-semibold">{rangeOf(finding.material[field], units)}</dd>
                </div>
              ))}
            </dl>
            {may.edit ? (
              <form
                className="space-y-2"
                onSubmit={form.onSubmit(() =>
                  add.mutate(
                    { id, name: givenName, units, found: findings as Findings },
                    { onSuccess: () => navigate(`/w/${workspaceId}/materials/${id}`) },
                  ),
                )}
              >
                <TextField label={t("saveAs")} {...form.field("name")} hint={name ? undefined : givenName} />
                <Button type="submit" primary wide disabled={add.isPending}>
                  {t("saveMaterial")}
                </Button>
                <Sentence text={form.sentence ?? form.errorAt("found")} />
              </form>
            ) : null}
          </div>
        ) : (
          <p className="border-t-4 border-base-300 bg-base-100 p-4 text-base-content/75">
            {t("theResultAppearsWithTheFirst")}{" "}
            <Link className="link" to={`/w/${workspaceId}/materials`}>
              {t("allMaterials")}
            </Link>
          </p>
        )}
      </section>
    </div>
  );
}
