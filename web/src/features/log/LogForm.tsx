import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import { sendPhotoTo } from "@/api/files";
import type { LogEntryOut, NewLogEntry, PlotOut } from "@/api/schema.gen";
import { sent } from "@/api/sent";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { useStock } from "@/features/supply/supply";
import { useSettled } from "@/features/survey/entry";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/log";
import { today } from "@/ui/clock";
import { FieldFrame, SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { PLACEHOLDER } from "@/ui/format";
import { Notices } from "@/ui/Notices";
import { about, aboutDepth, inUnits } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { entryOf, FIELD_NAMES, KINDS, type ListedKind, listed } from "./kinds";
import { ListedFields } from "./ListedFields";
import { useLogChanges } from "./log";

type Kind = "measured" | "rows" | "laid" | ListedKind;

const LABELS: Record<Kind, string> = {
  measured: t("depthMeasured"),
  rows: t("depthsTreeByTree"),
  laid: t("mulchLaid"),
  ...(Object.fromEntries(Object.entries(KINDS).map(([kind, { label }]) => [kind, label])) as Record<
    ListedKind,
    string
  >),
};

const EMPTY: Record<string, string> = Object.fromEntries(FIELD_NAMES.map((name) => [name, ""]));

/** Writes down what was measured, laid, seen or done on a plot or a pile. */
export function LogForm({
  plot,
  close,
  laid,
  corrects,
}: {
  plot: PlotOut;
  close: () => void;
  /** What the plan says to lay, to begin with. */
  laid?: { depth: string };
  /** The entry in whose place this one stands. */
  corrects?: LogEntryOut;
}) {
  const { workspaceId = "" } = useParams();
  const units = useUnits();
  const { sheet, path } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const spread = plot.depth_means === "spread";
  const trees = "trees" in plot.shape ? (plot.shape.trees ?? 1) : 1;
  const { add, addRows } = useLogChanges();
  const [id, setId] = useState(() => crypto.randomUUID());
  const [photo, setPhoto] = useState<File | null>(null);
  const [notices, setNotices] = useState<string[]>([]);
  const [unsent, refuse] = useState<string>();
  const first = corrects?.entry.kind ?? (laid ? "laid" : "measured");
  const form = useFields({
    start: {
      ...EMPTY,
      kind: (first in LABELS ? first : "measured") as Kind,
      by: "depth" as "depth" | "volume",
      depth: laid?.depth ?? "",
      volume: "",
      rows: "",
      note: corrects?.note ?? "",
      pile: "",
      trees: "",
      on: corrects?.on ?? sheet.data?.today ?? today(),
      material: "arborist_leafy",
      weeds: "yes",
    },
    problem: add.error ?? addRows.error,
  });
  const texts = form.values;
  const { kind, by, on, material } = texts;
  const stock = useStock();
  const piles = stock.data?.piles ?? [];
  const pile = piles.find((other) => other.id === texts.pile) ?? piles[0];
  const entry = () => {
    if (kind === "measured") return { kind, depth_mm: texts.depth };
    if (kind === "laid") {
      return by === "depth"
        ? { kind, material, depth_mm: texts.depth }
        : { kind, material, volume_m3: texts.volume };
    }
    if (kind === "removed") {
      const { chips_mm = "", humus_mm = "" } = texts as Record<string, string>;
      return { kind, chips_mm: chips_mm.trim() || "0", humus_mm: humus_mm.trim() || null };
    }
    return entryOf(kind, texts as Record<string, string>);
  };
  const settled = useSettled({ plot_id: plot.id, on, units: siteUnits, entry: entry() });
  const laidText = by === "depth" ? texts.depth : texts.volume;
  const estimate = useQuery({
    queryKey: ["plot", path.workspace_id, path.site_id, "log-estimate", settled],
    queryFn: () =>
      result(
        api.POST("/api/v1/workspaces/{workspace_id}/sites/{site_id}/log/estimate", {
          params: { path },
          body: sent<NewLogEntry>({ ...settled, id }),
        }),
      ),
    enabled: kind === "laid" && laidText.trim() !== "",
    retry: false,
  });
  const laidNow = kind === "laid" && laidText.trim() && estimate.data ? estimate.data : null;
  const told = laidNow && {
    settled: t("settled", { depth: aboutDepth(laidNow.settled_mm, units) }),
    spread: t("loose", { depth: aboutDepth(laidNow.spread_mm, units) }),
    loose: t("looseWithVolume", { volume: about(laidNow.volume_m3, units) }),
  };
  const other = !told
    ? undefined
    : by === "depth"
      ? `${spread ? told.settled : told.spread}; ${told.loose}`
      : `${told.spread}, ${told.settled}`;
  const written = (sentences: string[]) => {
    setId(crypto.randomUUID());
    setPhoto(null);
    setNotices(sentences);
    form.change({ ...EMPTY, depth: "", volume: "", rows: "", trees: "", note: "", weeds: "yes" });
    if (laid || corrects) close();
  };
  const save = async () => {
    refuse(undefined);
    if (kind === "rows") {
      addRows.mutate(
        { id, plot_id: plot.id, on, units: siteUnits, readings: texts.rows },
        { onSuccess: (answer) => written(answer.said) },
      );
      return;
    }
    const photos: string[] = [...(corrects?.photos ?? [])];
    if (photo) {
      try {
        photos.push(await sendPhotoTo(path.workspace_id, path.site_id, photo));
      } catch (error) {
        refuse(error instanceof Error ? error.message : String(error));
        return;
      }
    }
    add.mutate(
      {
        id,
        plot_id: kind === "pile" ? null : plot.id,
        trees: kind === "pile" ? null : texts.trees,
        pile_id: kind === "pile" ? (pile?.id ?? null) : null,
        on,
        units: siteUnits,
        note: texts.note,
        photos,
        corrects: corrects?.id ?? null,
        entry: sent<NewLogEntry["entry"]>(entry()),
      },
      { onSuccess: (answer) => written(answer.said ?? []) },
    );
  };
  const offered = Object.entries(LABELS).filter(
    ([key]) => (key !== "rows" && key !== "tree") || trees > 1 || listed(key)?.of === "tree",
  ) as [Kind, string][];
  return (
    <form
      noValidate
      className="space-y-3 py-3"
      aria-label={t("log")}
      onSubmit={form.onSubmit(() => void save())}
    >
      <h2 className="text-xl">
        {corrects ? t("correctWithName", { name: plot.name }) : t("logWithName", { name: plot.name })}
      </h2>
      <Notices notices={notices.map((notice) => inUnits(notice, units))} />
      <SelectField label={t("whatHappened")} {...form.field("kind")} options={offered} />
      {kind === "laid" ? (
        <>
          <MaterialSelect
            workspaceId={workspaceId}
            label={t("material")}
            value={material}
            change={(material) => form.change({ material })}
            error={form.errorAt("entry.material")}
          />
          <div className="join" role="group" aria-label={t("measuredAs")}>
            {(["depth", "volume"] as const).map((way) => (
              <button
                key={way}
                type="button"
                aria-pressed={by === way}
                className={`btn btn-sm join-item press ${by === way ? "btn-neutral" : ""}`}
                onClick={() => form.change({ by: way })}
              >
                {way === "depth" ? (spread ? t("depthLoose") : t("depthSettled")) : t("volumeLoose")}
              </button>
            ))}
          </div>
        </>
      ) : null}
      {kind === "rows" ? (
        <TextField
          label={t("depthsTreeByTree")}
          rows={3}
          {...form.field("rows")}
          error={form.errorAt("readings") ?? form.errorAt("entry.depth_mm") ?? form.errorAt("trees.last")}
          hint={t("typeRowsLike")}
        />
      ) : null}
      {kind === "pile" ? (
        <SelectField
          label={t("pile")}
          value={pile?.id ?? ""}
          onChange={(key) => form.change({ pile: key })}
          options={piles.map((other): [string, string] => [other.id, other.name])}
          error={form.errorAt("pile_id")}
        />
      ) : null}
      {trees > 1 && kind !== "rows" && kind !== "pile" && kind !== "laid" ? (
        <TextField
          label={t("treesOfTheRow")}
          {...form.field("trees")}
          error={form.errorAt("trees.last") ?? form.errorAt("trees.first") ?? form.errorAt("trees")}
          hint={t("allTreesWhereEmpty")}
        />
      ) : null}
      <div className="grid grid-cols-2 gap-3">
        {kind === "laid" && by === "volume" ? (
          <TextField
            label={t("looseVolume")}
            unit={PLACEHOLDER.volume[siteUnits]}
            {...form.field("volume")}
            error={form.errorAt("entry.volume_m3")}
            hint={other}
            autoFocus
          />
        ) : kind === "measured" || kind === "laid" ? (
          <TextField
            label={kind === "measured" ? t("depth") : spread ? t("depthLaidLoose") : t("depthLaidSettled")}
            unit={PLACEHOLDER.depth[siteUnits]}
            {...form.field("depth")}
            error={form.errorAt("entry.depth_mm")}
            hint={kind === "measured" ? t("rulerReading") : other}
            autoFocus
          />
        ) : (
          <ListedFields kind={kind} form={form} units={siteUnits} />
        )}
        <TextField label={t("on")} type="date" {...form.field("on")} />
      </div>
      {kind === "rows" ? null : (
        <>
          <TextField label={t("note")} rows={2} {...form.field("note")} />
          <FieldFrame label={t("photo")} error={form.errorAt("photos")} hint={photo?.name}>
            {({ id: fieldId, describedBy }) => (
              <input
                id={fieldId}
                aria-describedby={describedBy}
                type="file"
                accept="image/jpeg,image/png,image/webp"
                className="file-input w-full"
                onChange={(event) => setPhoto(event.target.files?.[0] ?? null)}
              />
            )}
          </FieldFrame>
        </>
      )}
      <FormFoot
        sentence={unsent ?? form.sentence}
        busy={add.isPending || addRows.isPending}
        save={t("saveEntry")}
        close={close}
      />
    </form>
  );
}
