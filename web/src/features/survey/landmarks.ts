import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useChange, useRemoval } from "@/api/change";
import { Problem } from "@/api/client";
import { useRequests } from "@/api/requests";
import type { LandmarkEntry, LandmarkOut, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { spelled } from "./entry";
import { useSite } from "./site";

export type Landmark = LandmarkOut["landmark"];
export type LandmarkKind = NonNullable<Landmark["kind"]>;

/** What is drawn of a tip, a pile place or a way: a kept one, or the one being typed. */
export interface Marked {
  id: string;
  name: string;
  landmark: Landmark;
}

export const KINDS: Record<LandmarkKind, { label: string; what: string; add: string }> = {
  tip: { label: t("tip"), what: t("aPlaceWhereATruckCan"), add: t("tip") },
  pile_place: { label: t("pilePlace"), what: t("aPlaceForAPile"), add: t("pilePlace") },
  way: { label: t("way"), what: t("aPathForTheBarrow"), add: t("way") },
};

/** A landmark as it stands in the form: every measurement as text. */
export interface LandmarkTexts {
  id: string;
  name: string;
  kind: LandmarkKind;
  x_m: string;
  y_m: string;
  turn_deg: string;
  length_m: string;
  width_m: string;
  surface: "hard" | "soft";
  to_wall_m: string;
  points_m: string;
  climb_m: string;
}

export function emptyLandmark(kind: LandmarkKind, units: UnitSystem): LandmarkTexts {
  const us = units === "us";
  const way = kind === "way";
  return {
    id: crypto.randomUUID(),
    name: "",
    kind,
    x_m: "0",
    y_m: "0",
    turn_deg: "0",
    length_m: us ? "20 ft" : "6 m",
    width_m: way ? (us ? "4 ft" : "1.2 m") : us ? "12 ft" : "4 m",
    surface: "hard",
    to_wall_m: "",
    points_m: "",
    climb_m: "0",
  };
}

export function textsOf(out: LandmarkOut, units: UnitSystem): LandmarkTexts {
  const { landmark } = out;
  const start = emptyLandmark(landmark.kind ?? "tip", units);
  const typed = (out.typed.units === units ? out.typed.landmark : undefined) as
    | (Partial<LandmarkTexts> & { place?: Partial<LandmarkTexts> })
    | undefined;
  const text = (key: string, value: unknown, written: string | undefined) => written ?? spelled(key, value, units);
  const shared = { ...start, id: out.id, name: out.name };
  if (landmark.kind === "way") {
    return {
      ...shared,
      points_m: text("points_m", landmark.points_m, typed?.points_m),
      width_m: text("width_m", landmark.width_m, typed?.width_m),
      climb_m: text("climb_m", landmark.climb_m, typed?.climb_m),
    };
  }
  return {
    ...shared,
    x_m: text("x_m", landmark.place.x_m, typed?.place?.x_m),
    y_m: text("y_m", landmark.place.y_m, typed?.place?.y_m),
    turn_deg: String(landmark.place.turn_deg ?? 0),
    length_m: text("length_m", landmark.length_m, typed?.length_m),
    width_m: text("width_m", landmark.width_m, typed?.width_m),
    to_wall_m: landmark.to_wall_m == null ? "" : text("to_wall_m", landmark.to_wall_m, typed?.to_wall_m),
    surface: landmark.kind === "tip" ? (landmark.surface ?? "hard") : start.surface,
  };
}

/** What is sent; the server reads every text and says what is wrong with it. */
export function landmarkEntry(texts: LandmarkTexts, units: UnitSystem): LandmarkEntry {
  const { kind, name, width_m } = texts;
  const place = { x_m: texts.x_m, y_m: texts.y_m, turn_deg: Number(texts.turn_deg.replace(",", ".")) };
  const shared = {
    width_m,
    length_m: texts.length_m,
    place,
    ...(texts.to_wall_m.trim() ? { to_wall_m: texts.to_wall_m } : {}),
  };
  const landmark: LandmarkEntry["landmark"] =
    kind === "way"
      ? { kind, width_m, points_m: texts.points_m, climb_m: texts.climb_m.trim() || "0" }
      : kind === "tip"
        ? { kind, ...shared, surface: texts.surface }
        : { kind, ...shared };
  return { name, units, landmark };
}

/** Whether anything is typed of a landmark; a place has a default. */
function begun({ landmark }: LandmarkEntry): boolean {
  if (landmark.kind !== "way") return true;
  return [landmark.points_m, landmark.width_m, landmark.climb_m].some((text) => String(text ?? "").trim());
}

/** The landmark being typed as the core reads it. */
export function useLandmarkEstimate(body: LandmarkEntry, kind: string) {
  const { siteApi, key } = useRequests();
  const query = useQuery({
    queryKey: key("plot", "landmark", kind, body),
    queryFn: ({ signal }) => siteApi.post("/landmark-estimate", { body, signal }),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    enabled: begun(body),
  });
  return {
    estimate: query.isError || query.data?.landmark.kind !== kind ? undefined : query.data,
    errors: query.error instanceof Problem ? query.error.byField : {},
  };
}

/** What can be done with the tips, pile places and ways of this address's site. */
export function useLandmarks() {
  const { path, refresh } = useSite();
  const { siteApi } = useRequests();
  const add = useChange(
    (entry: LandmarkEntry & { id: string }) => siteApi.post("/landmarks", { body: entry }),
    refresh,
  );
  const change = useChange(
    ({ id, version, entry }: { id: string; version: number; entry: LandmarkEntry }) =>
      siteApi.put("/landmarks/{landmark_id}", { path: { landmark_id: id }, version, body: entry }),
    refresh,
  );
  const remove = useRemoval<{ id: string; name: string }>({
    remove: ({ id }) => siteApi.delete("/landmarks/{landmark_id}", { path: { landmark_id: id } }),
    restore: ({ id }) => siteApi.post("/landmarks/{landmark_id}/restoration", { path: { landmark_id: id } }),
    refresh,
    sentence: ({ name }) => t("wasDeleted", { name }),
  });
  return { path, add, change, remove };
}
