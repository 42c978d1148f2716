import { ArrowLeft, Camera, Delete } from "lucide-react";
import { type ReactNode, useState } from "react";
import { t } from "@/texts/log";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { FileButton } from "@/ui/FileChoice";
import { useFields } from "@/ui/fields";
import { aboutDepth } from "@/ui/precision";
import { Sentence } from "@/ui/Sentence";
import { KindFields, type KindTexts } from "../KindFields";
import { entryOf, kindOf, offered, placeOf, startsOf } from "../kinds";
import { depthStick, type Instrument, pileThermometer } from "./devices";
import { keptKinds } from "./seen";
import { dayOf, momentAt } from "./sending";
import { type FieldPhoto, type FieldSite, keepUse, keepWaiting } from "./store";

export interface Subject {
  id: string;
  name: string;
  pile: boolean;
  depth: FieldSite["plots"][number]["depth"] | null;
}

/** A depth has keys of its own, and what is laid is told with more ease at a table. */
const TYPED_ELSEWHERE = ["measured", "laid"];
const QUICK = 8;

/** Depths near the forecast, for one press: steps of 5 mm, or of a quarter inch. */
export function quickDepths(depth_mm: number, us: boolean): string[] {
  const step = us ? 0.25 : 5;
  const middle = Math.max((QUICK / 2) * step, Math.round((us ? depth_mm / 25.4 : depth_mm) / step) * step);
  return Array.from({ length: QUICK }, (_, at) => String(middle + (at - QUICK / 2) * step));
}

interface Props {
  subject: Subject;
  site: FieldSite;
  user: string;
  /** What is to be done here. */
  tasks?: ReactNode;
  close: () => void;
  written: () => void;
}

/** One entry: a depth by big keys, or anything else by its fields. It is kept on the phone first, then sent. */
export function FieldEntry({ subject, site, user, tasks, close, written }: Props) {
  const us = site.units === "us";
  const forecast_mm = subject.depth?.middle ?? 0;
  const kinds = keptKinds();
  const others = kinds
    ? offered(kinds, "form_place").filter(
        ({ kind: key, subject: of }) => (of === "plot" || of === "anything") && !TYPED_ELSEWHERE.includes(key),
      )
    : [];
  const [kind, setKind] = useState(subject.pile ? "pile" : "measured");
  const [points, setPoints] = useState<string[]>([""]);
  const [photos, setPhotos] = useState<FieldPhoto[]>([]);
  const form = useFields<KindTexts>({ start: { note: "", ...startsOf(kinds?.log ?? [], site.units) } });
  const listed = kindOf(kinds, kind);
  const typed = points.filter((point) => point !== "");
  const last = points.at(-1) ?? "";
  const setLast = (text: string) => setPoints([...points.slice(0, -1), text]);
  const save = async () => {
    const unit = us ? "in" : "mm";
    const entry =
      kind === "measured"
        ? typed.length > 1
          ? { kind, readings_mm: typed.map((point) => `${point} ${unit}`).join("; ") }
          : { kind, depth_mm: `${typed[0]} ${unit}` }
        : listed
          ? entryOf(listed, form.texts())
          : { kind };
    const typedAt = momentAt(site);
    await keepWaiting({
      id: crypto.randomUUID(),
      user,
      workspaceId: site.workspaceId,
      siteId: site.siteId,
      plotId: subject.pile ? null : subject.id,
      pileId: subject.pile ? subject.id : null,
      name: subject.name,
      on: dayOf(typedAt),
      units: site.units,
      entry,
      note: form.texts().note ?? "",
      photos,
      typedAt,
    });
    await keepUse(subject.id);
    written();
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    const content = await file.arrayBuffer();
    setPhotos([...photos, { id: crypto.randomUUID(), content, type: file.type }]);
  };
  return (
    <section aria-label={subject.name}>
      <div className="flex items-center gap-2">
        <Button ghost square aria-label={t("back")} onClick={close}>
          <ArrowLeft size={22} />
        </Button>
        <h2 className="text-2xl">{subject.name}</h2>
      </div>
      {subject.depth ? (
        <p className="mb-2">
          {t("forecastDepth", {
            depth: aboutDepth(subject.depth.middle, site.units),
            low: aboutDepth(subject.depth.low, site.units),
            high: aboutDepth(subject.depth.high, site.units),
          })}
        </p>
      ) : null}
      {tasks}
      {kind === "measured" ? (
        <>
          <output className="display block text-center text-5xl" data-testid="reading">
            {[...points.slice(0, -1), last || "–"].join("  ")} <span className="text-2xl">{us ? "in" : "mm"}</span>
          </output>
          <div className="mt-2 grid grid-cols-4 gap-2">
            {quickDepths(forecast_mm, us).map((depth) => (
              <button
                key={depth}
                type="button"
                className={`btn press h-14 text-lg ${last === depth ? "btn-neutral" : ""}`}
                onClick={() => setLast(depth)}
              >
                {depth}
              </button>
            ))}
          </div>
          <Keys text={last} change={setLast} us={us} />
          <div className="mt-2 flex gap-2">
            <Button className="h-14 grow" disabled={last === ""} onClick={() => setPoints([...points, ""])}>
              {t("nextPoint")}
            </Button>
            <Read instrument={() => depthStick(forecast_mm)} take={(mm) => setLast(inUnit(mm, us))} />
          </div>
        </>
      ) : (
        <div className="space-y-3">
          {listed ? <KindFields kind={listed} units={site.units} form={form} /> : null}
          {subject.pile ? (
            <Read
              instrument={pileThermometer}
              take={(celsius) => form.change({ [placeOf("pile", "temperature_c")]: `${celsius} C` })}
            />
          ) : null}
        </div>
      )}
      <Button
        primary
        wide
        className="mt-3 h-16 text-xl"
        disabled={kind === "measured" && typed.length === 0}
        onClick={() => void save()}
      >
        {t("save")}
      </Button>
      <div className="mt-4 space-y-3">
        <FileButton className="h-14 w-full" accept="image/*" capture="environment" take={(file) => void take(file)}>
          <Camera size={20} /> {photos.length > 0 ? t("photosAdded", { count: photos.length }) : t("addAPhoto")}
        </FileButton>
        <TextField label={t("note")} rows={2} {...form.field("note")} />
        {subject.pile ? null : (
          <SelectField
            label={t("somethingElse")}
            value={kind}
            onChange={setKind}
            options={[
              ["measured", t("depthMeasured")],
              ...others.map(({ kind: key, label }): [string, string] => [key, label]),
            ]}
          />
        )}
      </div>
    </section>
  );
}

const inUnit = (mm: number, us: boolean) => String(us ? Math.round((mm / 25.4) * 4) / 4 : mm);

/** Big keys for a number. */
function Keys({ text, change, us }: { text: string; change: (text: string) => void; us: boolean }) {
  const keys = ["1", "2", "3", "4", "5", "6", "7", "8", "9", us ? "." : "00", "0"];
  return (
    <div className="mt-2 grid grid-cols-3 gap-2">
      {keys.map((key) => (
        <Button key={key} className="h-14 text-2xl" onClick={() => change(`${text}${key}`.slice(0, 5))}>
          {key}
        </Button>
      ))}
      <Button className="h-14" aria-label={t("deleteTheLastDigit")} onClick={() => change(text.slice(0, -1))}>
        <Delete size={22} />
      </Button>
    </div>
  );
}

/** Asks a simulated instrument. */
function Read({ instrument, take }: { instrument: () => Instrument; take: (value: number) => void }) {
  const [connection, setConnection] = useState<Instrument>();
  const [problem, setProblem] = useState<string>();
  const read = () => {
    const connected = connection ?? instrument();
    setConnection(connected);
    setProblem(undefined);
    connected.read().then(take, (error: Error) => setProblem(error.message));
  };
  return (
    <div className="grow">
      <Button wide className="h-14" onClick={read}>
        {t("simulatedInstrument", { name: instrument().name })}
      </Button>
      <Sentence className="text-sm" text={problem} />
    </div>
  );
}
