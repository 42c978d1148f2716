import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useChange } from "@/api/change";
import { useRequests } from "@/api/requests";
import type { ParameterOut } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { useMay, useWorkspaceUnits } from "@/features/accounts/session";
import { t } from "@/texts/materials";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { valueText } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { rangeOf, Sourced } from "@/ui/working";

const GROUPS: Record<string, string> = {
  recipe: t("recipeDepths"),
  schedule: t("seasonsSettlingAndSpare"),
  survey: t("ground"),
  work: t("workRatesAndCarriers"),
  decay: t("decayHeading"),
  nitrogen: t("nitrogen"),
  supply: t("piles"),
};

/** Every figure the computation brings along, with its range and source; figures of one's own can stand before it. */
export function Parameters() {
  const { path, workspaceApi } = useRequests();
  const may = useMay();
  const refresh = useStale("parameters");
  const [search, setSearch] = useState("");
  const parameters = useQuery({
    queryKey: ["parameters", path.workspace_id],
    queryFn: () => workspaceApi.get("/parameters"),
  });
  const resetAll = useChange(() => workspaceApi.delete("/parameters"), refresh);
  if (parameters.isPending) return <Loading what={t("theParameters")} />;
  if (parameters.isError) return <Trouble error={parameters.error} retry={() => parameters.refetch()} />;
  const ownParameters = parameters.data.filter((parameter) => parameter.own);
  const words = search.trim().toLowerCase();
  const matches = parameters.data.filter((parameter) =>
    `${parameter.group} ${parameter.figure.name}`.toLowerCase().includes(words),
  );
  const groups = [...new Set(matches.map((parameter) => parameter.group))];
  return (
    <div className="mx-auto max-w-3xl space-y-5 p-4 sm:p-6">
      <h1 className="text-3xl">{t("parameters")}</h1>
      <p>
        {t("allFiguresThatUlmaticUsesWith")} <strong>{t("published")}</strong> {t("theSourceIsNamed")}{" "}
        <strong>{t("fromMemory")}</strong> {t("theSourceIsNamedButWas")} <strong>{t("commonPractice")}</strong>{" "}
        {t("usualInTheTradeWithoutA")}
      </p>
      {ownParameters.length > 0 ? (
        <section className="space-y-2 border-l-4 border-primary pl-3" data-testid="own-parameters">
          <div className="flex flex-wrap items-center justify-between gap-2">
            <h2 className="text-xl">{t("setByYou", { number: t("figures", { count: ownParameters.length }) })}</h2>
            <Button shown={may.edit} small onClick={() => resetAll.mutate()}>
              {t("resetAll")}
            </Button>
          </div>
          <ul className="divide-y divide-base-300">
            {ownParameters.map((parameter) => (
              <Row key={parameter.figure.key} parameter={parameter} />
            ))}
          </ul>
        </section>
      ) : null}
      <TextField label={t("search")} value={search} onChange={setSearch} />
      {groups.map((group) => {
        const rows = matches.filter((parameter) => parameter.group === group);
        return (
          <details key={group} open={words !== "" || group in GROUPS}>
            <summary className="press flex cursor-pointer items-center justify-between gap-2">
              <h2 className="text-xl">{GROUPS[group] ?? group}</h2>
              <span className="text-sm text-base-content/75">{rows.length}</span>
            </summary>
            <ul className="divide-y divide-base-300 border-y border-base-300">
              {rows.map((parameter) => (
                <Row key={parameter.figure.key} parameter={parameter} />
              ))}
            </ul>
          </details>
        );
      })}
    </div>
  );
}

function Row({ parameter }: { parameter: ParameterOut }) {
  const { workspaceApi } = useRequests();
  const may = useMay();
  const refresh = useStale("parameters");
  const units = useWorkspaceUnits();
  const { figure, shipped, own, typed, fixed } = parameter;
  const [setting, setSetting] = useState(false);
  const path = { key: figure.key };
  const change = useMutation({
    mutationFn: (typedFigure: string) =>
      workspaceApi.put("/parameters/{key}", { path, body: { figure: typedFigure, units } }),
    onSuccess: () => {
      setSetting(false);
      return refresh();
    },
  });
  const reset = useChange(() => workspaceApi.delete("/parameters/{key}", { path }), refresh);
  const form = useFields({ start: { figure: typed ?? "" }, problem: change.error });
  const range = rangeOf(figure, units);
  return (
    <li className="grid gap-x-4 gap-y-1 py-3 sm:grid-cols-[1fr_auto]" data-parameter={figure.key}>
      <span className="font-semibold">{figure.name}</span>
      <span className="sm:text-right">
        <strong>{valueText(figure.value, figure.unit, units)}</strong>
        {range ? <span className="text-base-content/70"> ({range})</span> : null}
      </span>
      <span className="text-sm">
        {own ? `${t("defaultWithFigure", { figure: valueText(shipped.value, shipped.unit, units) })} ` : ""}
        <Sourced figure={own ? shipped : figure} />
      </span>
      {fixed ? (
        <span className="text-sm text-base-content/70 sm:text-right">{fixed}</span>
      ) : may.edit && !setting ? (
        <span className="flex gap-2 sm:justify-end">
          <Button small aria-label={t("set", { name: figure.name })} onClick={() => setSetting(true)}>
            {t("setHeading")}
          </Button>
          <Button
            shown={Boolean(own)}
            small
            aria-label={t("reset", { name: figure.name })}
            onClick={() => reset.mutate()}
          >
            {t("resetHeading")}
          </Button>
        </span>
      ) : null}
      {setting ? (
        <form
          noValidate
          className="flex items-end gap-2 sm:col-span-2"
          onSubmit={form.onSubmit(({ figure }) => change.mutate(figure))}
        >
          <div className="w-56">
            <TextField
              label={t("yourValue", { name: figure.name })}
              {...form.field("figure")}
              error={form.errorAt("figure") ?? form.sentence}
              hint={t("forExample", { figure: valueText(shipped.value, shipped.unit, units) })}
              autoFocus
            />
          </div>
          <Button type="submit" primary disabled={change.isPending}>
            {t("save")}
          </Button>
          <Button ghost onClick={() => setSetting(false)}>
            {t("cancel")}
          </Button>
        </form>
      ) : null}
    </li>
  );
}
