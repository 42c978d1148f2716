import { SelectField } from "@/ui/Field";

export const STAGES = {
  fresh: "fresh, under a month",
  ageing: "ageing, still warm or sour",
  aged: "aged, dull and mostly dry",
  decomposed: "decomposed, dark crumb",
};

interface Props {
  value: string | undefined;
  change: (value: string) => void;
}

/** How far the material has rotted; `by` says why it cannot be chosen. */
export function StageSelect({ value, change, by }: Props & { by?: string | undefined }) {
  return (
    <SelectField
      label="It is"
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
      label="Cardboard beneath"
      value={value ?? ""}
      onChange={change}
      options={[
        ["", `as proposed: ${proposed ? "yes" : "no"}`],
        ["yes", "yes"],
        ["no", "no"],
      ]}
    />
  );
}
