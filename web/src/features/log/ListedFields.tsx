import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/log";
import { SelectField, TextField } from "@/ui/Field";
import { type LogField, listed, unitOf } from "./kinds";

interface Form {
  values: object;
  change: (next: Record<string, string>) => void;
  errorAt: (name: string) => string | undefined;
}

/** The fields of a kind of entry, as the list of kinds has them. */
export function ListedFields({ kind, form, units }: { kind: string; form: Form; units: UnitSystem }) {
  return (
    <>
      {(listed(kind)?.fields ?? []).map((field) => (
        <One key={`${kind}.${field.name}`} field={field} form={form} units={units} />
      ))}
    </>
  );
}

function One({ field, form, units }: { field: LogField; form: Form; units: UnitSystem }) {
  const { name, label, type, options } = field;
  const value = (form.values as Record<string, string>)[name] ?? "";
  const shared = {
    label,
    value,
    onChange: (text: string) => form.change({ [name]: text }),
    error: form.errorAt(`entry.${name}`),
  };
  if (options) {
    const choices: [string, string][] = [["", t("notSaid")], ...Object.entries(options)];
    return <SelectField {...shared} options={choices} />;
  }
  if (type === "flag") {
    return (
      <label className="flex items-center gap-2 self-end py-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={value === "yes"}
          onChange={(event) => form.change({ [name]: event.target.checked ? "yes" : "" })}
        />
        {label}
      </label>
    );
  }
  return <TextField {...shared} unit={unitOf(type, units)} />;
}
