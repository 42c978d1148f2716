import type { Kinds, LogEntryOut, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/log";
import { depth, length, onGround, share } from "@/ui/format";
import { about } from "@/ui/precision";
import { wordsOf } from "./kinds";
import { depthOf } from "./log";

const ROW_STEPS = {
  loosened: t("rowsLoosened"),
  sown: t("rowsSown"),
  planted: t("rowsPlanted"),
  up: t("rowsUp"),
  closed: t("rowsClosed"),
  cleared: t("rowsCovered"),
};

function sentence(entry: LogEntryOut["entry"], kinds: Kinds | undefined, units: UnitSystem): string {
  const { label, parts } = wordsOf(entry, kinds, units);
  return parts.length > 0 ? `${label}. ${parts.join("; ")}` : label;
}

/** What an entry says, in words. */
export function entryWords(
  logged: LogEntryOut,
  units: UnitSystem,
  kinds: Kinds | undefined,
  nameOf: (material: string) => string,
): string {
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
        chips: (entry.chips_mm ?? 0) > 0 ? `${t("removedOfChips", { depth: depth(entry.chips_mm ?? 0, units) })} ` : "",
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
      return logged.note ? "" : sentence(entry, kinds, units);
    case "task":
      return t("taskDone", {
        task: kinds?.tasks.find(({ kind }) => kind === entry.task)?.done ?? entry.task,
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
      return sentence(entry, kinds, units);
  }
}
