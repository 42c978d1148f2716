import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { sendPhotoTo } from "@/api/files";
import { useRequests } from "@/api/requests";
import type { Kinds, LogEntryOut, LogKindOut, PlotOut, UnitSystem } from "@/api/schema.gen";
import { MaterialSelect } from "@/features/materials/MaterialSelect";
import { useStock } from "@/features/supply/supply";
import { useSite } from "@/features/survey/site";
import { t } from "@/texts/log";
import { today } from "@/ui/clock";
import { SelectField, TextField } from "@/ui/Field";
import { FileField, PHOTOS } from "@/ui/FileChoice";
import { FormFoot } from "@/ui/FormFoot";
import { type Form, useFields, useSettledTexts } from "@/ui/fields";
import { Notices } from "@/ui/Notices";
import { about, aboutDepth, inUnits } from "@/ui/precision";
import { Segments } from "@/ui/Segments";
import { namesOf } from "@/ui/Select";
import { Loading, Trouble } from "@/ui/states";
import { useUnits } from "@/ui/units";
import { KindFields, type KindTexts, labelOf } from "./KindFields";
import { entryOf, kindOf, offered, placeOf, startsOf, useKinds } from "./kinds";
import { useLogChanges } from "./log";

/** Depths of the trees of a row, typed as one text: each becomes a measurement. */
const ROWS = "rows";

interface Props {
  plot: PlotOut;
  close: () => void;
  /** What the plan says to lay, to begin with. */
  laid?: { depth: string };
  /** The entry in whose place this one stands. */
  corrects?: LogEntryOut;
  /** Whether it is of the nitrogen account: what pays into it, and no more. */
  account?: boolean;
}

/** Writes down what was measured, laid, seen or done on a plot or a pile. */
export function LogForm(props: Props) {
  const kinds = useKinds();
  if (kinds.isPending) return <Loading what={t("theLog")} />;
  if (kinds.isError) return <Trouble error={kinds.error} retry={() => kinds.refetch()} />;
  return <EntryForm {...props} kinds={kinds.data} />;
}

function EntryForm({ plot, close, laid, corrects, account = false, kinds }: Props & { kinds: Kinds }) {
  const { workspaceId = "" } = useParams();
  const units = useUnits();
  const { sheet, path } = useSite();
  const siteUnits = sheet.data?.site.units ?? units;
  const trees = "trees" in plot.shape ? (plot.shape.trees ?? 1) : 1;
  const { add, addRows } = useLogChanges();
  const [id, setId] = useState(() => crypto.randomUUID());
  const [photo, setPhoto] = useState<File | null>(null);
  const [notices, setNotices] = useState<string[]>([]);
  const [unsent, refuse] = useState<string>();
  const listed = offered(kinds, account ? "account_place" : "form_place");
  const first = corrects?.entry.kind ?? (laid ? "laid" : listed[0]?.kind);
  const starts = { rows: "", trees: "", note: "", ...startsOf(listed, siteUnits) };
  const form = useFields<KindTexts>({
    start: {
      ...starts,
      kind: kindOf(kinds, first)?.form_place === null && !account ? "measured" : (first ?? "measured"),
      either: "",
      note: corrects?.note ?? "",
      pile: "",
      on: corrects?.on ?? sheet.data?.today ?? today(),
      ...(laid ? { [placeOf("laid", "depth_mm")]: laid.depth } : {}),
    },
    problem: add.error ?? addRows.error,
  });
  const texts = form.values;
  const rows = texts.kind === ROWS;
  const kind = kindOf(kinds, rows ? "measured" : texts.kind);
  const spread = plot.depth_means === "spread";
  const pileKind = kind?.subject === "pile";
  const eithers = kind?.fields.filter(({ either }) => either) ?? [];
  const chosen = (eithers.find(({ name }) => name === texts.either) ?? eithers[0])?.name;
  const material = kind?.fields.find(({ type }) => type === "material");
  const follows = useWhatFollows(plot, kind, chosen, form, siteUnits);
  const stock = useStock();
  const piles = stock.data?.piles ?? [];
  const pile = piles.find((other) => other.id === texts.pile) ?? piles[0];
  const written = (sentences: string[]) => {
    setId(crypto.randomUUID());
    setPhoto(null);
    setNotices(sentences);
    form.change(starts);
    if (laid || corrects || account) close();
  };
  const save = async (typed: KindTexts) => {
    refuse(undefined);
    const on = typed.on ?? "";
    if (rows) {
      addRows.mutate(
        { id, plot_id: plot.id, on, units: siteUnits, readings: typed.rows ?? "" },
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
        plot_id: pileKind ? null : plot.id,
        trees: pileKind ? null : (typed.trees ?? ""),
        pile_id: pileKind ? (pile?.id ?? null) : null,
        on,
        units: siteUnits,
        note: typed.note ?? "",
        photos,
        corrects: corrects?.id ?? null,
        entry: kind ? entryOf(kind, typed, chosen) : { kind: "" },
      },
      { onSuccess: (answer) => written(answer.said ?? []) },
    );
  };
  const options = listed
    .filter(({ subject }) => subject !== "tree" || trees > 1)
    .flatMap(({ kind: key, label }): [string, string][] =>
      key === "measured" && trees > 1
        ? [
            [key, label],
            [ROWS, t("depthsTreeByTree")],
          ]
        : [[key, label]],
    );
  return (
    <form
      noValidate
      className="space-y-3 py-3"
      aria-label={account ? t("logNitrogen") : t("log")}
      onSubmit={form.onSubmit((typed) => void save(typed))}
    >
      <h2 className="text-xl">
        {t(corrects ? "correctWithName" : account ? "nitrogenGiven" : "logWithName", { name: plot.name })}
      </h2>
      <Notices notices={notices.map((notice) => inUnits(notice, units))} />
      <SelectField label={account ? t("type") : t("whatHappened")} {...form.field("kind")} options={options} />
      {kind?.hint && account ? <p>{kind.hint}</p> : null}
      {kind && material ? (
        <MaterialSelect
          workspaceId={workspaceId}
          label={material.label}
          value={texts[placeOf(kind.kind, material.name)] ?? ""}
          change={(key) => form.change({ [placeOf(kind.kind, material.name)]: key })}
          error={form.errorAt("entry.material")}
        />
      ) : null}
      {eithers.length > 0 ? (
        <Segments
          label={t("measuredAs")}
          button="btn-sm"
          value={chosen}
          options={eithers.map((field): [string, string] => [field.name, labelOf(field, spread)])}
          choose={(either) => form.change({ either })}
        />
      ) : null}
      {rows ? (
        <TextField
          label={t("depthsTreeByTree")}
          rows={3}
          {...form.field("rows")}
          error={form.errorAt("readings") ?? form.errorAt("entry.depth_mm") ?? form.errorAt("trees.last")}
          hint={t("typeRowsLike")}
        />
      ) : null}
      {pileKind ? (
        <SelectField
          label={t("pile")}
          value={pile?.id ?? ""}
          onChange={(key) => form.change({ pile: key })}
          options={namesOf(piles)}
          error={form.errorAt("pile_id")}
        />
      ) : null}
      {trees > 1 && !rows && !pileKind && eithers.length === 0 && !account ? (
        <TextField
          label={t("treesOfTheRow")}
          {...form.field("trees")}
          error={form.errorAt("trees.last") ?? form.errorAt("trees.first") ?? form.errorAt("trees")}
          hint={t("allTreesWhereEmpty")}
        />
      ) : null}
      <div className="grid grid-cols-2 gap-3">
        {kind && !rows ? (
          <KindFields
            kind={kind}
            form={form}
            units={siteUnits}
            chosen={chosen}
            spread={spread}
            hint={follows}
            focus={kind.kind === first}
          />
        ) : null}
        <TextField label={t("on")} type="date" {...form.field("on")} />
      </div>
      {rows || account ? null : (
        <>
          <TextField label={t("note")} rows={2} {...form.field("note")} />
          <FileField
            label={t("photo")}
            error={form.errorAt("photos")}
            hint={photo?.name}
            accept={PHOTOS}
            take={setPhoto}
          />
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

/** What follows from the amount that is typed: its depth settled and as spread, and its volume. */
function useWhatFollows(
  plot: PlotOut,
  kind: LogKindOut | undefined,
  chosen: string | undefined,
  form: Form<KindTexts>,
  units: UnitSystem,
): string | undefined {
  const { siteApi, key } = useRequests();
  const shownUnits = useUnits();
  const [id] = useState(() => crypto.randomUUID());
  const [texts] = useSettledTexts(form);
  const body = {
    id,
    plot_id: plot.id,
    on: texts.on ?? "",
    units,
    entry: kind ? entryOf(kind, texts, chosen) : { kind: "" },
  };
  const amount = kind && chosen ? (texts[placeOf(kind.kind, chosen)] ?? "").trim() : "";
  const estimate = useQuery({
    queryKey: key("plot", "log-estimate", body),
    queryFn: () => siteApi.post("/log/estimate", { body }),
    enabled: amount !== "",
    retry: false,
  });
  if (amount === "" || !estimate.data) return undefined;
  const settled = t("settled", { depth: aboutDepth(estimate.data.settled_mm, shownUnits) });
  const spread = t("loose", { depth: aboutDepth(estimate.data.spread_mm, shownUnits) });
  const loose = t("looseWithVolume", { volume: about(estimate.data.volume_m3, shownUnits) });
  if (chosen !== "depth_mm") return `${spread}, ${settled}`;
  return `${plot.depth_means === "spread" ? settled : spread}; ${loose}`;
}
