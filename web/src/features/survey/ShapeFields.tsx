import type { UnitSystem } from "@/api/schema.gen";
import { t } from "@/texts/survey";
import { SelectField, TextField } from "@/ui/Field";
import { PLACEHOLDER } from "@/ui/format";
import { type Kind, SHAPES } from "./shapes";

interface Props {
  kind: Kind;
  units: UnitSystem;
  fields: Record<string, string>;
  change: (next: Record<string, string>) => void;
  errorAt: (key: string, text: string) => string | undefined;
  hintFor: (key: string) => string | undefined;
  onFocus?: (field: string) => void;
}

/** Which measurement of a list the caret stands in. */
function itemAt(text: string, caret: number) {
  return text.slice(0, caret).split(/[+;\n]|,\s|,(?=\d)/).length - 1;
}

/** The fields of one shape. */
export function ShapeFields({ kind, units, fields, change, errorAt, hintFor, onFocus }: Props) {
  return (
    <div className="grid grid-cols-2 gap-3">
      {SHAPES[kind].fields.map((field) => (
        <div key={field.key} className={`min-w-0 ${field.wide ? "col-span-2" : ""}`}>
          {field.choices ? (
            <SelectField
              label={field.label}
              value={fields[field.key] ?? ""}
              onChange={(value) => change({ [field.key]: value })}
              options={field.choices}
            />
          ) : (
            <TextField
              name={field.key}
              label={
                field.key === "trunk_m"
                  ? fields.trunk_as === "diameter"
                    ? t("trunkDiameter")
                    : t("trunkGirth")
                  : field.label
              }
              aside={field.key === "trunk_m" ? <TrunkAs fields={fields} change={change} /> : undefined}
              {...(field.bare ? { unit: PLACEHOLDER[field.bare][units] } : {})}
              {...(field.rows ? { rows: field.rows } : {})}
              value={fields[field.key] ?? ""}
              onChange={(value) => change({ [field.key]: value })}
              onCaret={(text, caret) =>
                onFocus?.(/legs_m|offsets_m/.test(field.key) ? `${field.key}.${itemAt(text, caret)}` : field.key)
              }
              error={errorAt(field.key, fields[field.key] ?? "")}
              hint={(fields[field.key]?.trim() && hintFor(field.key)) || field.hint}
            />
          )}
        </div>
      ))}
    </div>
  );
}

function TrunkAs({ fields, change }: Pick<Props, "fields" | "change">) {
  const byDiameter = fields.trunk_as === "diameter";
  return (
    <button
      type="button"
      className="link text-sm"
      onClick={() => change({ trunk_as: byDiameter ? "girth" : "diameter" })}
    >
      {byDiameter ? t("orRound") : t("orDiameter")}
    </button>
  );
}
