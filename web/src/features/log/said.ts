import type { LogEntryOut, TaskDoneOutput, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/log";
import { depth, length, onGround, share } from "@/ui/format";
import { about } from "@/ui/precision";
import { saidOf } from "./kinds";
import { depthOf } from "./log";

const ROW_STEPS = {
  loosened: t("rowsLoosened"),
  sown: t("rowsSown"),
  planted: t("rowsPlanted"),
  up: t("rowsUp"),
  closed: t("rowsClosed"),
  cleared: t("rowsCovered"),
};

const TASKS_DONE: Record<TaskDoneOutput["task"], string> = {
  prune: t("donePrune"),
  clear: t("doneClear"),
  weed: t("doneWeed"),
  strim: t("doneStrim"),
  fabric: t("doneFabric"),
  edge: t("doneEdge"),
  soak: t("doneSoak"),
  sheet: t("doneSheet"),
  compost: t("doneCompost"),
  biochar: t("doneBiochar"),
  chips: t("doneChips"),
  pull_back: t("donePullBack"),
  guard: t("doneGuard"),
  crisp: t("doneCrisp"),
  water_in: t("doneWaterIn"),
  own: t("doneOwn"),
};

/** What an entry says, in words. */
export function said(logged: LogEntryOut, units: UnitSystem, nameOf: (material: string) => string): string {
  const { entry } = logged;
  const mm = depthOf(logged);
  switch (entry.kind) {
    case "measured":
      return t("measured", { depth: depth(mm ?? 0, units) });
    case "laid":
      return t("laidOf", {
        amount: mm !== null ? depth(mm, units) : entry.volume_m3 ? about(entry.volume_m3, units) : "",
        material: nameOf(entry.material),
        source: logged.in_book ? t("fromAPile") : "",
      });
    case "removed":
      return t("dugOut", {
        chips:
          (entry.chips_mm ?? 0) > 0
            ? `${t("removedOfChips", { depth: depth(entry.chips_mm ?? 0, units) })} `
            : "",
        humus: entry.humus_mm == null ? t("allHumus") : t("ofHumus", { depth: depth(entry.humus_mm, units) }),
      });
    case "dug_in":
      return t("dugInTheExistingMulch");
    case "fed":
      return t("gaveOf", {
        grams: onGround(entry.grams_m2, units),
        product: entry.product ?? t("aDressing"),
      });
    case "spread":
      return t("spreadOf", { depth: depth(entry.depth_mm, units), material: nameOf(entry.material) });
    case "grown":
      return entry.crop === "legume" ? t("cutALegume") : t("cutACoverCrop");
    case "note":
      return logged.note ? "" : saidOf(entry, units);
    case "task":
      return t("taskDone", {
        task: TASKS_DONE[entry.task],
        part: (entry.share ?? 1) < 1 ? t("partOfIt", { share: share(entry.share ?? 1) }) : "",
        season: entry.season,
      });
    case "opened":
      return t("rowsWereOpened", {
        count: entry.count ?? 1,
        length: length(entry.length_m, units),
        width: length(entry.width_m, units),
      });
    case "row":
      return ROW_STEPS[entry.step];
    case "learning_restarted":
      return t("learningRestarted");
    default:
      return saidOf(entry, units);
  }
}
