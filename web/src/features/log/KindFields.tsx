import type { EntryFieldOut, LogKindOut, UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/log";
import { SelectField, TextField } from "@/ui/Field";
import { placeOf, unitOf } from "./kinds";

interface TypedFields {
  values: Record<string, string>;
  change: (next: Record<string, string>) => void;
  errorAt: (name: string) => string | undefined;
}

/** The fields of a kind of entry, as the server describes them; of those of which one is typed, the chosen one.
 *  A material is chosen elsewhere. */
export function KindFields({
  kind,
  form,
  units,
  chosen,
  spread = false,
  hint,
  focus = false,
}: {
  kind: LogKindOut;
  form: TypedFields;
  units: UnitSystem;
  chosen?: string | undefined;
  /** Whether depths mean mulch as it is spread. */
  spread?: boolean;
  /** What follows from what is typed. */
  hint?: string | undefined;
  /** Whether the first of them is typed into at once. */
  focus?: boolean;
}) {
  return kind.fields
    .filter(({ type, either, name }) => type !== "material" && (!either || name === chosen))
    .map((field, index) => (
      <KindField
        key={placeOf(kind.kind, field.name)}
        field={{
          ...field,
          label: labelOf(field, spread),
          hint: (field.either ? hint : undefined) ?? field.hint,
        }}
        place={placeOf(kind.kind, field.name)}
        form={form}
        units={units}
        focus={focus && index === 0}
      />
    ));
}

export const labelOf = (field: EntryFieldOut, spread: boolean) =>
  (spread ? field.label_spread : null) ?? field.label;

function KindField({
  field,
  place,
  form,
  units,
  focus,
}: {
  field: EntryFieldOut;
  place: string;
  form: TypedFields;
  units: UnitSystem;
  focus: boolean;
}) {
  const { name, label, type, choices, hint, start } = field;
  const value = form.values[place] ?? "";
  const shared = {
    label,
    value,
    onChange: (text: string) => form.change({ [place]: text }),
    error: form.errorAt(`entry.${name}`),
    hint: hint ?? undefined,
  };
  if (choices.length > 0) {
    const options = choices.map((choice): [string, string] => [choice.value, choice.label]);
    return <SelectField {...shared} options={start === null ? [["", t("notSaid")], ...options] : options} />;
  }
  if (type === "flag") {
    return (
      <label className="flex items-center gap-2 self-end py-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={value === "yes"}
          onChange={(event) => form.change({ [place]: event.target.checked ? "yes" : "" })}
        />
        {label}
      </label>
    );
  }
  return (
    <TextField
      {...shared}
      type={type === "day" ? "date" : "text"}
      unit={unitOf(type, units)}
      autoFocus={focus}
    />
  );
}
