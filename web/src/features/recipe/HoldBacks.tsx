import { Plus, X } from "lucide-react";
import type { SiteOut } from "@/api/schema.gen";
import type { Entry, HoldEntry } from "@/features/survey/entry";
import { t } from "@/texts/recipe";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { PLACEHOLDER } from "@/ui/format";
import { Tick } from "@/ui/Tick";

interface Props {
  entry: Pick<Entry, "holds">;
  site: SiteOut;
  change: (next: Partial<Entry>) => void;
  errorAt: (path: string, text: string) => string | undefined;
}

/** Rows that are bare for good, or pulled back and covered round plants once they are up. */
export function HoldBacks({ entry, site, change, errorAt }: Props) {
  const set = (key: string, next: Partial<HoldEntry>) =>
    change({ holds: entry.holds.map((hold) => (hold.key === key ? { ...hold, ...next } : hold)) });
  return (
    <div className="col-span-2 space-y-2">
      {entry.holds.map((hold, index) => {
        const path = `recipe.hold_backs.${index}`;
        const field = (name: "name" | "rows" | "length_m" | "width_m") => ({
          value: hold[name],
          onChange: (text: string) => set(hold.key, { [name]: text }),
          error: errorAt(`${path}.${name}`, hold[name]),
        });
        return (
          <div key={hold.key} className="space-y-2 border-l-4 border-base-300 pl-3">
            <div className="flex items-end gap-2">
              <div className="grow">
                <TextField label={t("rowsOf")} {...field("name")} />
              </div>
              <Button
                ghost
                square
                aria-label={t("removeWithName", { name: hold.name })}
                onClick={() => change({ holds: entry.holds.filter((other) => other.key !== hold.key) })}
              >
                <X size={18} />
              </Button>
            </div>
            <div className="grid grid-cols-3 gap-2">
              <TextField label={t("rows")} {...field("rows")} />
              <TextField label={t("length")} unit={PLACEHOLDER.length[site.units]} {...field("length_m")} />
              <TextField label={t("width")} unit={PLACEHOLDER.length[site.units]} {...field("width_m")} />
            </div>
            <Tick className="text-sm" checked={hold.for_good} onChange={(for_good) => set(hold.key, { for_good })}>
              {t("alwaysBareOtherwiseMulchedToThe")}
            </Tick>
          </div>
        );
      })}
      <Button
        small
        onClick={() =>
          change({
            holds: [
              ...entry.holds,
              {
                key: crypto.randomUUID(),
                name: t("sownRows"),
                rows: "1",
                length_m: "",
                width_m: site.units === "us" ? "10 in" : "25 cm",
                for_good: false,
              },
            ],
          })
        }
      >
        <Plus size={15} /> {t("rowsOfPlantsOrBareRows")}
      </Button>
    </div>
  );
}
