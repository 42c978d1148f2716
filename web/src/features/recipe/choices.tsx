import { t } from "@/texts/recipe";
import { SelectField } from "@/ui/Field";

export const STAGES = {
  fresh: t("fresh1Month"),
  ageing: t("ageingWarmOrSour"),
  aged: t("agedDullMostlyDry"),
  decomposed: t("decomposedDarkCrumb"),
};

interface Props {
  value: string | undefined;
  change: (value: string) => void;
}

/** How far the material has rotted; `by` says why it cannot be chosen. */
export function StageSelect({ value, change, by }: Props & { by?: string | undefined }) {
  return (
    <SelectField
      label={t("stage")}
      value={value || "fresh"}
      onChange={change}
      options={STAGES}
      hint={by}
      disabled={Boolean(by)}
    />
  );
}

export function CardboardSelect({ value, change, proposed }: Props & { proposed: boolean | undefined }) {
  return (
    <SelectField
      label={t("cardboardBeneath")}
      value={value ?? ""}
      onChange={change}
      options={[
        ["", t("proposed", { answer: proposed ? t("yes") : t("no") })],
        ["yes", t("yes")],
        ["no", t("no")],
      ]}
    />
  );
}
