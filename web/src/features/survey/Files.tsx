import { useMutation } from "@tanstack/react-query";
import { Download } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { sendLog, sendPlots } from "@/api/files";
import type { ErrandOut, Import, RowError, SiteOut, Use } from "@/api/schema.gen";
import { useStale } from "@/api/stale";
import { useMay, useSession } from "@/features/accounts/session";
import { PageHead } from "@/features/site/PageHead";
import { t } from "@/texts/survey";
import { Back } from "@/ui/Back";
import { Button } from "@/ui/Button";
import { SelectField } from "@/ui/Field";
import { FileField } from "@/ui/FileChoice";
import { about, aboutArea } from "@/ui/precision";
import { Select } from "@/ui/Select";
import { Loading, Trouble } from "@/ui/states";
import { Table } from "@/ui/Table";
import { type Kind, SHAPES } from "./shapes";
import { useSite, useUseOptions } from "./site";

const OUT = [
  { file: "file.csv", label: "CSV", what: t("tableOfPlotsWithRecipesAnd") },
  { file: "file.xlsx", label: "XLSX", what: t("theSameAsAWorkbook") },
  { file: "log.csv", label: t("logCsv"), what: t("tableOfAllLogEntries") },
  { file: "log.xlsx", label: t("logXlsx"), what: t("theSameAsAWorkbook") },
  { file: "file.geojson", label: t("geojson"), what: t("outlinesWithCoordinates") },
  { file: "file.json", label: t("archive"), what: t("theWholeSiteAsABackup") },
  { file: "file.zip", label: t("archiveWithPhotos"), what: t("theWholeSiteWithItsPhotos") },
];

/** Plots from files and to files. */
export function Files() {
  const { workspaceId = "", siteId = "" } = useParams();
  const { sheet } = useSite();
  const may = useMay();
  if (sheet.isPending) return <Loading what={t("theSite")} />;
  if (sheet.isError) return <Trouble error={sheet.error} retry={() => sheet.refetch()} />;
  const { site } = sheet.data;
  const address = `/api/v1/workspaces/${workspaceId}/sites/${siteId}`;
  return (
    <div className="mx-auto max-w-3xl space-y-8 p-4 sm:p-6">
      <PageHead title={t("files")}>
        <Back to={`/w/${workspaceId}/sites/${siteId}`}>{site.name}</Back>
      </PageHead>
      {may.edit ? <BringIn site={site} /> : null}
      {may.edit ? <BringLog address={address} /> : null}
      <section className="space-y-2">
        <h2 className="text-xl">{t("export")}</h2>
        <ul className="divide-y divide-base-300 border-y border-base-300">
          {OUT.map(({ file, label, what }) => {
            const unplaced = file === "file.geojson" && !site.location_deg;
            return (
              <li key={file} className="flex items-center gap-4 py-2">
                <span className="grow">
                  <strong>{label}</strong>, {what}
                  {unplaced ? (
                    <span className="block text-sm text-base-content/75">
                      {t("plotsMeasuredByTapeNeedThe")}{" "}
                      <Link className="link" to={`/w/${workspaceId}/sites/${siteId}/settings`}>
                        {t("settings")}
                      </Link>
                      .
                    </span>
                  ) : null}
                </span>
                <a className="btn press" href={`${address}/${file}`} download aria-label={t("download", { label })}>
                  <Download size={17} /> {t("downloadHeading")}
                </a>
              </li>
            );
          })}
        </ul>
      </section>
    </div>
  );
}

function BringIn({ site }: { site: SiteOut }) {
  const { workspaceId = "" } = useParams();
  const [errand, setErrand] = useState<ErrandOut>();
  const { data: session } = useSession();
  const units = session?.user?.units ?? site.units;
  const refresh = useStale("plan");
  const navigate = useNavigate();
  const uses = useUseOptions();
  const [use, setUse] = useState<Use>("perennials");
  const [chosen, setChosen] = useState<{ file: File; import_id: string } | null>(null);
  const [columns, setColumns] = useState<Record<string, string>>();
  const read = useMutation({
    retry: false,
    mutationFn: ({ file, import_id, keep, columns }: Sending) =>
      sendPlots(
        workspaceId,
        site.id,
        {
          name: file.name,
          import_id,
          use,
          keep: String(keep),
          ...(columns && { columns: JSON.stringify(columns) }),
        },
        file,
        setErrand,
      ),
    onSettled: () => setErrand(undefined),
    onSuccess: async (imported) => {
      if (!imported.kept) return;
      await refresh();
      navigate("..", { relative: "path" });
    },
  });
  const imported = read.data;
  return (
    <section className="space-y-3">
      <h2 className="text-xl">{t("importPlots")}</h2>
      <p>
        {t("boundariesAsGeojsonGpxOrKml")}{" "}
        <a className="link" href="/api/v1/plot-template.csv" download>
          {t("csv")}
        </a>
        ,{" "}
        <a className="link" href="/api/v1/plot-template.xlsx" download>
          {t("xlsx")}
        </a>
        .
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        <FileField
          label={t("file")}
          accept=".geojson,.json,.gpx,.kml,.csv,.xlsx"
          take={(file) => {
            const next = { file, import_id: crypto.randomUUID() };
            setChosen(next);
            setColumns(undefined);
            read.mutate({ ...next, keep: false });
          }}
        />
        <SelectField label={t("useIfTheFileDoesNot")} value={use} onChange={setUse} options={uses} />
      </div>
      {read.isPending ? <Loading what={t("whatIsInTheFile")} /> : null}
      {errand && errand.of > 0 ? <p role="status">{t("ofPlotsRead", { done: errand.done, of: errand.of })}</p> : null}
      {read.error ? <Trouble error={read.error} /> : null}
      {imported && chosen && !imported.kept ? (
        <div className="space-y-3">
          {imported.columns && imported.columns.length > 0 ? (
            <Columns
              imported={imported}
              choose={(next) => {
                setColumns(next);
                read.mutate({ ...chosen, keep: false, columns: next });
              }}
            />
          ) : null}
          {imported.errors.length > 0 ? <Wrong errors={imported.errors} /> : null}
          {imported.plots.length > 0 && imported.errors.length === 0 ? (
            <>
              <Table
                rows={imported.plots}
                columns={[
                  [t("plot"), (plot) => plot.name],
                  [t("shape"), (plot) => SHAPES[plot.kind as Kind]?.label, "words"],
                  [t("area"), (plot) => aboutArea(plot.area_m2, units)],
                  [t("looseHeading"), (plot) => about(plot.to_target_m3, units)],
                ]}
              />
              <Button primary onClick={() => read.mutate({ ...chosen, keep: true, ...(columns && { columns }) })}>
                {t("add", { what: t("plots", { count: imported.plots.length }) })}
              </Button>
            </>
          ) : null}
        </div>
      ) : null}
    </section>
  );
}

/** A log from a table: looked at first, then added where nothing is wrong. */
function BringLog({ address }: { address: string }) {
  const refresh = useStale("plan");
  const navigate = useNavigate();
  const [chosen, setChosen] = useState<File | null>(null);
  const read = useMutation({
    retry: false,
    mutationFn: ({ file, keep }: { file: File; keep: boolean }) =>
      sendLog(address, { name: file.name, keep: String(keep) }, file),
    onSuccess: async (imported) => {
      if (!imported.kept) return;
      await refresh();
      navigate("../log", { relative: "path" });
    },
  });
  const imported = read.data;
  return (
    <section className="space-y-3">
      <h2 className="text-xl">{t("importALog")}</h2>
      <p>{t("aTableOfEntriesAsCsv")}</p>
      <FileField
        label={t("log")}
        accept=".csv,.xlsx"
        take={(file) => {
          setChosen(file);
          read.mutate({ file, keep: false });
        }}
      />
      {read.isPending ? <Loading what={t("whatIsInTheFile")} /> : null}
      {read.error ? <Trouble error={read.error} /> : null}
      {imported && imported.errors.length > 0 ? <Wrong errors={imported.errors} /> : null}
      {imported && chosen && imported.errors.length === 0 && !imported.kept ? (
        <div className="space-y-2" data-testid="log-found">
          <p>
            {t("newEntries", { count: imported.entries.length })}
            {imported.there > 0 ? t("alreadyInTheLog", { there: imported.there }) : ""}.
          </p>
          {imported.entries.length > 0 ? (
            <Button primary onClick={() => read.mutate({ file: chosen, keep: true })}>
              {t("add", { what: t("entries", { count: imported.entries.length }) })}
            </Button>
          ) : null}
        </div>
      ) : null}
    </section>
  );
}

interface Sending {
  file: File;
  import_id: string;
  keep: boolean;
  columns?: Record<string, string>;
}

interface Props {
  imported: Import;
  choose: (columns: Record<string, string>) => void;
}

/** Somebody else's table: what stands in each column, and what it is to be taken for. */
function Columns({ imported, choose }: Props) {
  const columns = imported.columns ?? [];
  const [taken, setTaken] = useState(() =>
    Object.fromEntries(columns.map((column) => [column.heading, column.guess ?? ""])),
  );
  return (
    <form
      className="space-y-3"
      aria-label={t("columns")}
      onSubmit={(event) => {
        event.preventDefault();
        choose(taken);
      }}
    >
      <p>{t("thisTableHasOtherHeadingsChoose")}</p>
      <Table
        rows={columns}
        columns={[
          [t("headingInTheFile"), ({ heading }) => <strong>{heading}</strong>],
          [t("firstRows"), ({ examples }) => examples.filter(Boolean).join(" · "), "words"],
          [
            t("contains"),
            ({ heading }) => (
              <Select
                label={t("containsWithHeading", { heading })}
                value={taken[heading] ?? ""}
                onChange={(content) => setTaken({ ...taken, [heading]: content })}
                options={[
                  ["", t("notUsed")],
                  ...(imported.headings ?? []).map((name): [string, string] => [name, name]),
                ]}
              />
            ),
            "words",
          ],
        ]}
      />
      <Button type="submit" primary>
        {t("readTheTable")}
      </Button>
    </form>
  );
}

function Wrong({ errors }: { errors: RowError[] }) {
  return (
    <div className="border-l-4 border-error bg-base-100 p-4" role="alert">
      <p className="font-semibold">
        {t("nothingWasAddedCorrectionCorrectThe", { entries: t("entriesNeed", { count: errors.length }) })}
      </p>
      <ul className="mt-2 space-y-1">
        {errors.map((error) => (
          <li key={`${error.row} ${error.column}`}>
            {t("row", { row: error.row })} <strong>{error.column}</strong>: {error.detail}
          </li>
        ))}
      </ul>
    </div>
  );
}
