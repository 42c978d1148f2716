import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useParams } from "react-router";
import { api, Problem, result } from "@/api/client";
import { useRefresh } from "@/api/refresh";
import type { ParameterOut } from "@/api/schema.gen";
import { useMay, useWorkspaceUnits } from "@/features/accounts/session";
import { TextField } from "@/ui/Field";
import { count, shown } from "@/ui/format";
import { Loading, Trouble } from "@/ui/states";
import { rangeOf, Sourced } from "@/ui/working";

const GROUPS: Record<string, string> = {
  recipe: "Recipe: depths",
  schedule: "Seasons, settling and spare",
  survey: "Ground",
  work: "Work: rates and carriers",
  decay: "Decay",
  nitrogen: "Nitrogen",
  supply: "Heaps",
};

/** Every figure the computation brings along, with its range and source; figures of one's own can stand before it. */
export function Parameters() {
  const { workspaceId: workspace_id = "" } = useParams();
  const may = useMay();
  const refresh = useRefresh();
  const [search, setSearch] = useState("");
  const parameters = useQuery({
    queryKey: ["parameters", workspace_id],
    queryFn: () =>
      result(api.GET("/api/v1/workspaces/{workspace_id}/parameters", { params: { path: { workspace_id } } })),
  });
  const resetAll = useMutation({
    mutationFn: () =>
      result(
        api.DELETE("/api/v1/workspaces/{workspace_id}/parameters", { params: { path: { workspace_id } } }),
      ),
    onSuccess: refresh,
  });
  if (parameters.isPending) return <Loading what="the parameters" />;
  if (parameters.isError) return <Trouble error={parameters.error} retry={() => parameters.refetch()} />;
  const own = parameters.data.filter((parameter) => parameter.own);
  const words = search.trim().toLowerCase();
  const asked = parameters.data.filter((parameter) =>
    `${parameter.group} ${parameter.figure.name}`.toLowerCase().includes(words),
  );
  const groups = [...new Set(asked.map((parameter) => parameter.group))];
  return (
    <div className="mx-auto max-w-3xl space-y-5 p-4 sm:p-6">
      <h1 className="text-3xl">Parameters</h1>
      <p>
        Every figure that comes with Ulmatic, with its range and source. <strong>Published</strong> has its
        source named, <strong>from memory</strong> names one that was not looked up again,{" "}
        <strong>common practice</strong> is what the trade does, without a published source. A figure that you
        set holds for all sites of your workspace.
      </p>
      {own.length > 0 ? (
        <section className="space-y-2 border-l-4 border-primary pl-3" data-testid="own-parameters">
          <div className="flex flex-wrap items-center justify-between gap-2">
            <h2 className="text-xl">{count(own.length, "figure", "figures")} of your own</h2>
            {may.edit ? (
              <button type="button" className="btn btn-sm press" onClick={() => resetAll.mutate()}>
                Reset all
              </button>
            ) : null}
          </div>
          <ul className="divide-y divide-base-300">
            {own.map((parameter) => (
              <Row key={parameter.figure.key} parameter={parameter} />
            ))}
          </ul>
        </section>
      ) : null}
      <TextField label="Search" value={search} onChange={setSearch} />
      {groups.map((group) => {
        const rows = asked.filter((parameter) => parameter.group === group);
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
  const { workspaceId: workspace_id = "" } = useParams();
  const may = useMay();
  const refresh = useRefresh();
  const units = useWorkspaceUnits();
  const { figure, shipped, own, typed, fixed } = parameter;
  const [text, setText] = useState<string | null>(null);
  const path = { workspace_id, key: figure.key };
  const change = useMutation({
    mutationFn: (typedFigure: string) =>
      result(
        api.PUT("/api/v1/workspaces/{workspace_id}/parameters/{key}", {
          params: { path },
          body: { figure: typedFigure, units },
        }),
      ),
    onSuccess: () => {
      setText(null);
      return refresh();
    },
  });
  const reset = useMutation({
    mutationFn: () =>
      result(api.DELETE("/api/v1/workspaces/{workspace_id}/parameters/{key}", { params: { path } })),
    onSuccess: refresh,
  });
  const problem = change.error instanceof Problem ? change.error : null;
  const range = rangeOf(figure, units);
  const save = (event: FormEvent) => {
    event.preventDefault();
    change.mutate(text ?? "");
  };
  return (
    <li className="grid gap-x-4 gap-y-1 py-3 sm:grid-cols-[1fr_auto]" data-parameter={figure.key}>
      <span className="font-semibold">{figure.name}</span>
      <span className="sm:text-right">
        <strong>{shown(figure.value, figure.unit, units)}</strong>
        {range ? <span className="text-base-content/70"> ({range})</span> : null}
      </span>
      <span className="text-sm">
        {own ? `Shipped: ${shown(shipped.value, shipped.unit, units)}. ` : ""}
        <Sourced figure={own ? shipped : figure} />
      </span>
      {fixed ? (
        <span className="text-sm text-base-content/70 sm:text-right">{fixed}</span>
      ) : may.edit && text === null ? (
        <span className="flex gap-2 sm:justify-end">
          <button
            type="button"
            className="btn btn-sm press"
            aria-label={`Set ${figure.name}`}
            onClick={() => setText(typed ?? "")}
          >
            Set
          </button>
          {own ? (
            <button
              type="button"
              className="btn btn-sm press"
              aria-label={`Reset ${figure.name}`}
              onClick={() => reset.mutate()}
            >
              Reset
            </button>
          ) : null}
        </span>
      ) : null}
      {text !== null ? (
        <form noValidate className="flex items-end gap-2 sm:col-span-2" onSubmit={save}>
          <div className="w-56">
            <TextField
              label={`${figure.name}, your figure`}
              value={text}
              onChange={setText}
              error={problem?.byField.figure ?? problem?.message}
              hint={`Such as ${shown(shipped.value, shipped.unit, units)}`}
              autoFocus
            />
          </div>
          <button type="submit" className="btn btn-primary press" disabled={change.isPending}>
            Save
          </button>
          <button type="button" className="btn btn-ghost press" onClick={() => setText(null)}>
            Cancel
          </button>
        </form>
      ) : null}
    </li>
  );
}
