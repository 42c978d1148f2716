import type { PlotOut, SiteOut, Use } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { Button } from "@/ui/Button";
import { SelectField, TextField } from "@/ui/Field";
import { useFields } from "@/ui/fields";
import { PLACEHOLDER } from "@/ui/format";
import { about, aboutArea } from "@/ui/precision";
import { useUnits } from "@/ui/units";
import { TARGET_DEPTH } from "./entry";
import { useSite, useUseOptions } from "./site";

/** The same use or depth for all plots that are marked. */
export function SeveralPlots({ site, plots, done }: { site: SiteOut; plots: PlotOut[]; done: () => void }) {
  const units = useUnits();
  const { sheet, changePlots } = useSite();
  const uses = useUseOptions();
  const form = useFields({
    start: { use: "" as Use | "", existing_mm: "", wanted_mm: "" },
    problem: changePlots.error,
  });
  const { use, existing_mm, wanted_mm } = form.values;
  const total = (of: (plot: PlotOut) => number) => plots.reduce((sum, plot) => sum + of(plot), 0);
  return (
    <form
      noValidate
      className="space-y-4 p-4"
      onSubmit={form.onSubmit(() => {
        const body = { plots: plots.map((plot) => plot.id), units: site.units, use: use || null };
        const depths = { existing_mm: existing_mm.trim() || null, wanted_mm: wanted_mm.trim() || null };
        changePlots.mutate({ ...body, ...depths }, { onSuccess: done });
      })}
    >
      <h2 className="text-xl">{t("selected", { plots: t("plots", { count: plots.length }) })}</h2>
      <p className="text-base-content/75">
        {t("togetherPlannedEmptyFieldsStayUnchanged", {
          area: aboutArea(
            total((plot) => plot.area_m2),
            units,
          ),
          volume: about(
            total((plot) => plot.planned_m3),
            units,
          ),
        })}
      </p>
      <SelectField
        label={t("use")}
        value={use}
        onChange={(use) => form.change({ use })}
        options={[["", t("unchanged")], ...uses]}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label={t("existingDepthSettled")}
          unit={PLACEHOLDER.depth[site.units]}
          {...form.field("existing_mm")}
        />
        <TextField
          label={TARGET_DEPTH[sheet.data?.depth_means ?? "settled"]}
          unit={PLACEHOLDER.depth[site.units]}
          {...form.field("wanted_mm")}
        />
      </div>
      <div className="flex gap-2">
        <Button
          type="submit"
          primary
          className="grow"
          disabled={changePlots.isPending || !(use || existing_mm.trim() || wanted_mm.trim())}
        >
          {t("changeAll")}
        </Button>
        <Button onClick={done}>{t("clearSelection")}</Button>
      </div>
    </form>
  );
}
