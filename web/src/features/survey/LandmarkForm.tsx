import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { LandmarkOut, SiteOut } from "@/api/schema.gen";
import { useMay } from "@/features/accounts/session";
import { t } from "@/texts/survey";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields, useSettledTexts } from "@/ui/fields";
import { PLACEHOLDER } from "@/ui/format";
import { Sentence } from "@/ui/Sentence";
import { Value } from "@/ui/working";
import type { XY } from "./drawn";
import { spelled } from "./entry";
import {
  emptyLandmark,
  KINDS,
  type LandmarkKind,
  type LandmarkTexts,
  landmarkEntry,
  type Marked,
  textsOf,
  useLandmarkEstimate,
  useLandmarks,
} from "./landmarks";

/** What the form lets the plan do: show what is typed, add a point where it is pressed, put a point elsewhere. */
export interface Editing {
  mark: Marked | undefined;
  press: ((at: XY) => void) | undefined;
  move: (id: string, index: number, at: XY) => void;
}

interface Props {
  site: SiteOut;
  stored: LandmarkOut | undefined;
  kind: LandmarkKind;
  back: string;
  onEditing: (editing: Editing | undefined) => void;
}

/** A tip, a pile place or a way: put on the plan by pressing it, or typed. */
export function LandmarkForm({ site, stored, kind, back, onEditing }: Props) {
  const { path, add, change, remove } = useLandmarks();
  const may = useMay();
  const navigate = useNavigate();
  const [start] = useState(() => (stored ? textsOf(stored, site.units) : emptyLandmark(kind, site.units)));
  const saving = stored ? change : add;
  const form = useFields<LandmarkTexts>({
    start,
    draft: `${path.workspace_id}.${site.id}.${stored?.id ?? kind}`,
    problem: saving.error,
  });
  const [settled] = useSettledTexts(form);
  const [tried, setTried] = useState(false);
  const [pressing, setPressing] = useState(!stored);
  const name = settled.name || KINDS[kind].label;
  const body = landmarkEntry({ ...settled, name }, site.units);
  const { estimate, errors } = useLandmarkEstimate(body, kind);
  const errorAt = (key: string, text: string) => {
    const sentence = errors[`landmark.${key}`] ?? form.errorAt(`landmark.${key}`);
    return sentence && (tried || text.trim() !== "") ? sentence : undefined;
  };
  const set = form.change;
  const written = (value: number) => spelled("x_m", Number(value.toFixed(2)), site.units);
  const place = (index: number | null, at: XY) => {
    if (kind !== "way") return set({ x_m: written(at[0]), y_m: written(at[1]) });
    const rows = form
      .texts()
      .points_m.split(/[;\n]/)
      .filter((row) => row.trim());
    const row = `${written(at[0])}, ${written(at[1])}`;
    set({
      points_m: (index === null ? [...rows, row] : rows.map((text, number) => (number === index ? row : text))).join(
        "\n",
      ),
    });
  };
  const unset = kind !== "way" && !stored && settled.x_m === "0" && settled.y_m === "0" && !form.changed;
  const mark = useMemo(
    () => (estimate && !unset ? { id: stored?.id ?? "new", name, landmark: estimate.landmark } : undefined),
    [estimate, unset, stored?.id, name],
  );
  const placeNow = useRef(place);
  placeNow.current = place;
  const takes = may.edit && pressing;
  useEffect(() => {
    const press = takes ? (at: XY) => placeNow.current(null, at) : undefined;
    onEditing({ mark, press, move: (_, index, at) => placeNow.current(index, at) });
  }, [mark, takes, onEditing]);
  useEffect(() => () => onEditing(undefined), [onEditing]);
  const address = `${back}/access/${stored?.id ?? kind}`;
  const save = (texts: LandmarkTexts) => {
    setTried(true);
    const entry = landmarkEntry(texts, site.units);
    const close = () => {
      form.clear(stored ? undefined : emptyLandmark(kind, site.units));
      // Whoever went elsewhere in the meantime stays there.
      if (location.pathname === address) navigate(back);
    };
    if (stored) change.mutate({ id: stored.id, version: stored.version, entry }, { onSuccess: close });
    else add.mutate({ ...entry, id: texts.id }, { onSuccess: close });
  };
  const field = (key: keyof LandmarkTexts & string, at: string = key) => ({
    ...form.field(key),
    error: errorAt(at, settled[key]),
  });
  const length = PLACEHOLDER.length[site.units];
  return (
    <form noValidate className="flex grow flex-col lg:h-full" onSubmit={form.onSubmit(save)}>
      <fieldset disabled={!may.edit} className="min-h-0 min-w-0 grow space-y-3 overflow-y-auto p-4">
        <h2 className="text-xl">{KINDS[kind].label}</h2>
        <p className="text-base-content/75">
          {kind === "way" ? t("pressEachBendOnThePlan") : t("pressItsMiddleOnThePlan", { what: KINDS[kind].what })}
        </p>
        <TextField
          label={t("name")}
          {...form.field("name")}
          error={tried && !settled.name.trim() ? t("pleaseTypeAName") : form.errorAt("name")}
          autoFocus={!stored}
        />
        {kind === "way" ? (
          <>
            <TextField
              label={t("points")}
              rows={5}
              {...field("points_m")}
              hint={t("eastNorthOnThePlanIn", { unit: length })}
            />
            {settled.points_m.trim() ? (
              <Button
                small
                onClick={() => set({ points_m: form.texts().points_m.trim().split("\n").slice(0, -1).join("\n") })}
              >
                {t("removeTheLastPoint")}
              </Button>
            ) : null}
            <Button shown={Boolean(stored && !pressing)} small onClick={() => setPressing(true)}>
              {t("addPointsOnThePlan")}
            </Button>
            <div className="grid grid-cols-2 gap-3">
              <TextField
                label={t("narrowestWidth")}
                unit={length}
                {...field("width_m")}
                hint={t("limitsWhichCarrierFits")}
              />
              <TextField
                label={t("risesBy")}
                unit={length}
                {...field("climb_m")}
                hint={t("fromFirstToLastPointNegative")}
              />
            </div>
          </>
        ) : (
          <div className="grid grid-cols-2 gap-3">
            <TextField label={t("eastOnThePlan")} unit={length} {...field("x_m", "place.x_m")} />
            <TextField label={t("northOnThePlan")} unit={length} {...field("y_m", "place.y_m")} />
            <TextField label={t("length")} unit={length} {...field("length_m")} />
            <TextField label={t("width")} unit={length} {...field("width_m")} />
            <TextField label={t("rotation")} unit="°" {...field("turn_deg", "place.turn_deg")} />
            <TextField
              label={t("toTheNearestWall")}
              unit={length}
              {...field("to_wall_m")}
              hint={t("fromItsEdgeKeepOneStride")}
            />
            {kind === "tip" ? (
              <SelectField
                label={t("surface")}
                {...form.field("surface")}
                options={{ hard: t("hard"), soft: t("softGrassOrSoil") }}
                hint={t("onHardGroundChipsAreScooped")}
              />
            ) : null}
          </div>
        )}
        {estimate ? (
          <p data-testid="landmark-size">
            {kind === "way" ? t("length") : t("widthAndLength")}{" "}
            <Value figure={estimate.size} className="display text-2xl" />
          </p>
        ) : null}
        <Sentence text={form.sentence} />
      </fieldset>
      {may.edit ? (
        <div className="sticky bottom-0 flex flex-wrap gap-2 border-t border-base-300 bg-base-100 p-3">
          <Button
            type="submit"
            primary
            className="grow"
            disabled={saving.isPending || (Boolean(stored) && !form.changed)}
          >
            {saving.isPending ? t("saving") : t("save")}
          </Button>
          {form.changed ? <Button onClick={() => form.clear(start)}>{t("discardChanges")}</Button> : null}
          {stored ? (
            <Button
              ghost
              className="text-error"
              onClick={() => remove.mutate({ id: stored.id, name: stored.name }, { onSuccess: () => navigate(back) })}
            >
              {t("delete")}
            </Button>
          ) : null}
        </div>
      ) : null}
    </form>
  );
}
