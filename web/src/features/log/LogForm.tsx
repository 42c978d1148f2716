import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, result } from "@/api/client";
import type { NewLogEntry, PlotOut } from "@/api/schema.gen";
import { sent } from "@/api/sent";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { useSettled } from "@/features/survey/entry";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/log";
import { SelectField, TextField } from "@/ui/Field";
import { FormFoot } from "@/ui/FormFoot";
import { useFields } from "@/ui/fields";
import { PLACEHOLDER, today } from "@/ui/format";
import { about, aboutDepth } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { useLogChanges } from "./log";

type Kind = "measured" | "laid" | "removed" | "dug_in" | "observed";

export const KINDS: Record<Kind, string> = {
  measured: t("depthMeasured"),
  laid: t("mulchLaid"),
  removed: t("removedOrHumusDugOut"),
  dug_in: t("dugIn"),
  observed: t("weedsAreComingThrough"),
};

/** Writes down what was measured, laid, taken off, dug in or seen on a plot. */
export function LogForm({
  plot,
  close,
  laid,
}: {
  plot: PlotOut;
  close: () => void;
  /** What the plan says to lay, to begin with. */
  laid?: { depth: string };
}) {
  const { workspaceId = "" } = useParams();
  const units = useUnits();
  const { sheet, path } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const spread = plot.depth_means === "spread";
  const { add } = useLogChanges();
  const [id, setId] = useState(() => crypto.randomUUID());
  const form = useFields({
    start: {
      kind: (laid ? "laid" : "measured") as Kind,
      by: "depth" as "depth" | "volume",
      depth: laid?.depth ?? "",
      volume: "",
      humus: "",
      on: sheet.data?.today ?? today(),
      material: "arborist_leafy",
    },
    problem: add.error,
  });
  const texts = form.values;
  const { kind, by, on, material } = texts;
  const entry = () => {
    switch (kind) {
      case "measured":
        return { kind, depth_mm: texts.depth };
      case "laid":
        return by === "depth"
          ? { kind, material, depth_mm: texts.depth }
          : { kind, material, volume_m3: texts.volume };
      case "removed":
        return { kind, chips_mm: texts.depth.trim() || "0", humus_mm: texts.humus.trim() || null };
      default:
        return { kind };
    }
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
  return (
    <form
      noValidate
      className="space-y-3 py-3"
      aria-label={t("log")}
      onSubmit={form.onSubmit(() =>
        add.mutate(
          { id, plot_id: plot.id, on, units: siteUnits, entry: sent<NewLogEntry["entry"]>(entry()) },
          {
            onSuccess: () => {
              setId(crypto.randomUUID());
              form.change({ depth: "", volume: "", humus: "" });
              if (laid) close();
            },
          },
        ),
      )}
    >
      <h2 className="text-xl">{t("logWithName", { name: plot.name })}</h2>
      <SelectField label={t("whatHappened")} {...form.field("kind")} options={KINDS} />
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
        ) : kind === "dug_in" || kind === "observed" ? (
          <span />
        ) : (
          <TextField
            label={
              kind === "measured"
                ? t("depth")
                : kind === "laid"
                  ? spread
                    ? t("depthLaidLoose")
                    : t("depthLaidSettled")
                  : t("chipsRemoved")
            }
            unit={PLACEHOLDER.depth[siteUnits]}
            {...form.field("depth")}
            error={form.errorAt("entry.depth_mm") ?? form.errorAt("entry.chips_mm")}
            hint={kind === "measured" ? t("rulerReading") : other}
            autoFocus
          />
        )}
        <TextField label={t("on")} type="date" {...form.field("on")} />
        {kind === "removed" ? (
          <TextField
            label={t("humusDugOut")}
            unit={PLACEHOLDER.depth[siteUnits]}
            {...form.field("humus")}
            error={form.errorAt("entry.humus_mm")}
            hint={t("leaveEmptyForAllOfIt")}
          />
        ) : null}
      </div>
      <FormFoot sentence={form.sentence} busy={add.isPending} save={t("saveEntry")} close={close} />
    </form>
  );
}
